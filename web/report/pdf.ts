import regularUrl from "@fontsource/barlow/files/barlow-latin-400-normal.woff?url";
import boldUrl from "@fontsource/barlow/files/barlow-latin-600-normal.woff?url";
import type { Block } from "#report/blocks.ts";
import { api } from "../api/client.ts";

/** A drawing of the page, as it goes on paper. */
export interface Figure {
  svg: string;
  /** part of the page's width */
  width: number;
}

const INK = "#1e1b15";
const SOFT = "#565044";
const RULE = "#d5cab3";
const SIGNAL = "#a9340d";
/** points of an A4 page between its margins */
const WIDTH = 531;

/**
 * Blocks and drawings as a PDF of one page, if they fit on one. The library and its fonts are fetched when they are
 * first needed.
 */
export async function pdfOf(
  title: string,
  parts: readonly (readonly Block[] | readonly Figure[])[],
): Promise<Blob> {
  const [{ default: pdfMake }, regular, bold] = await Promise.all([
    import("pdfmake/build/pdfmake.min.js"),
    base64(regularUrl),
    base64(boldUrl),
  ]);
  const pictures = new Map(
    await Promise.all(
      parts
        .flatMap((part) => part as readonly (Block | Figure)[])
        .flatMap((own) => ("kind" in own && own.kind === "pictures" ? own.pictures : []))
        .map(async ({ id }) => [id, await dataUrl(id)] as const),
    ),
  );
  pdfMake.addVirtualFileSystem({ "barlow.woff": regular, "barlow-bold.woff": bold });
  pdfMake.addFonts({
    Barlow: {
      normal: "barlow.woff",
      bold: "barlow-bold.woff",
      italics: "barlow.woff",
      bolditalics: "barlow-bold.woff",
    },
  });
  return pdfMake
    .createPdf({
      pageSize: "A4",
      pageMargins: [32, 28, 32, 28],
      info: { title, creator: "Upright Gusher" },
      defaultStyle: { font: "Barlow", fontSize: 9.5, color: INK, lineHeight: 1.05 },
      content: parts.flatMap((part) =>
        part.length > 0 && "svg" in (part[0] as object)
          ? [figures(part as readonly Figure[])]
          : (part as readonly Block[]).flatMap((block) => content(block, pictures)),
      ),
    })
    .getBlob();
}

const figures = (all: readonly Figure[]) => ({
  columns: all.map(({ svg, width }) => ({ svg, width: width * (WIDTH - 10 * (all.length - 1)) })),
  columnGap: 10,
  margin: [0, 6, 0, 4],
});

function content(block: Block, pictures: ReadonlyMap<string, string | undefined>): object[] {
  switch (block.kind) {
    case "heading":
      return [
        {
          text: block.text,
          bold: true,
          fontSize: block.level === 1 ? 16 : 12,
          margin: [0, block.level === 1 ? 0 : 5, 0, 1],
        },
      ];
    case "paragraph":
      return [{ text: block.text, margin: [0, 0, 0, 2] }];
    case "caution":
      return [{ text: block.text, color: SIGNAL, margin: [0, 6, 0, 0] }];
    case "finding":
      return [
        { text: block.title, bold: true, margin: [0, 3, 0, 0] },
        { text: [block.text, block.advice].filter(Boolean).join(" ") },
      ];
    case "ticks": {
      const half = Math.ceil(block.items.length / 2);
      const column = (items: typeof block.items) => ({
        stack: items.map(({ text, done }) => ({
          columns: [{ canvas: box(done), width: 12 }, { text }],
          margin: [0, 1, 0, 1],
        })),
      });
      return [
        { text: block.caption, color: SOFT, margin: [0, 5, 0, 1] },
        {
          columns: [column(block.items.slice(0, half)), column(block.items.slice(half))],
          columnGap: 14,
        },
      ];
    }
    case "derivation":
      return [];
    case "pictures": {
      const there = block.pictures.flatMap(({ id, name }) => {
        const image = pictures.get(id);
        return image
          ? [
              {
                stack: [
                  { image, fit: [170, 130] },
                  { text: name, color: SOFT },
                ],
              },
            ]
          : [];
      });
      const rows = Array.from({ length: Math.ceil(there.length / 3) }, (_, i) =>
        there.slice(3 * i, 3 * i + 3),
      );
      return [
        { text: block.caption, color: SOFT, margin: [0, 5, 0, 1] },
        ...rows.map((columns) => ({ columns, columnGap: 8, margin: [0, 2, 0, 4] })),
      ];
    }
    case "table":
      return [
        { text: block.caption, color: SOFT, margin: [0, 4, 0, 1] },
        {
          table: {
            headerRows: 1,
            widths: block.columns.map((_, i) => (i === block.columns.length - 1 ? "*" : "auto")),
            body: [
              block.columns.map(({ name, align }) => ({
                text: name,
                alignment: align,
                color: SOFT,
              })),
              ...block.rows.map((row) =>
                row.map((text, c) => ({ text, alignment: block.columns[c]?.align ?? "left" })),
              ),
            ],
          },
          layout: {
            hLineWidth: (i: number) => (i === 0 ? 0 : 0.5),
            vLineWidth: () => 0,
            hLineColor: () => RULE,
            paddingTop: () => 1.5,
            paddingBottom: () => 1.5,
            paddingLeft: () => 0,
            paddingRight: () => 10,
          },
        },
      ];
  }
}

/** A box to tick, drawn: no font has it. */
function box(done: boolean): object[] {
  const line = (x1: number, y1: number, x2: number, y2: number) => ({
    ...{ type: "line", x1, y1, x2, y2, lineWidth: 1.3, lineColor: INK },
  });
  return [
    { type: "rect", x: 0.5, y: 1.5, w: 7, h: 7, lineWidth: 0.7, lineColor: INK },
    ...(done ? [line(2, 5, 3.6, 7), line(3.6, 7, 6.6, 2.6)] : []),
  ];
}

/** A picture as a PDF takes it, JPEG or PNG; nothing where it cannot be had just now. */
async function dataUrl(id: string): Promise<string | undefined> {
  try {
    const bytes = await api.content(id);
    return await new Promise((resolve, reject) => {
      const reader = new FileReader();
      reader.onload = () => resolve(reader.result as string);
      reader.onerror = () => reject(reader.error);
      reader.readAsDataURL(bytes);
    });
  } catch {
    return undefined;
  }
}

async function base64(url: string): Promise<string> {
  const bytes = new Uint8Array(await (await fetch(url)).arrayBuffer());
  let text = "";
  for (const byte of bytes) text += String.fromCharCode(byte);
  return btoa(text);
}

/** A drawing of the page as it goes on paper: its colours by day, and nothing that only a browser understands. */
export function svgOf(element: Element | null): string | undefined {
  const drawn = element?.tagName === "svg" ? element : element?.querySelector("svg");
  if (!drawn) return undefined;
  const copy = drawn.cloneNode(true) as Element;
  // The light edge round a label lies over it on paper, where nothing says what is painted first.
  for (const label of copy.querySelectorAll("text")) label.removeAttribute("stroke");
  const day: Record<string, string> = {
    paper: "#f1ebdd",
    sheet: "#ffffff",
    ink: INK,
    soft: SOFT,
    rule: RULE,
    water: "#0f5a7d",
    pump: "#2b6442",
    signal: SIGNAL,
  };
  return new XMLSerializer()
    .serializeToString(copy)
    .replace(/var\(--(\w+)\)/g, (_, name: string) => day[name] ?? INK)
    .replace(/ (?:class|style|paint-order)="[^"]*"/g, "");
}
