declare module "pdfmake/build/pdfmake.min.js" {
  interface PdfMake {
    addVirtualFileSystem(files: Record<string, string>): void;
    addFonts(
      fonts: Record<string, { normal: string; bold: string; italics: string; bolditalics: string }>,
    ): void;
    createPdf(document: object): { getBlob(): Promise<Blob> };
  }
  const pdfMake: PdfMake;
  export default pdfMake;
}
