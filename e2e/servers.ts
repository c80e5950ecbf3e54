/** Where the server of a worker is reached. */
export function serverOf(worker: number): { port: number; address: string } {
  const port = Number(process.env.GUSHER_E2E_PORT ?? 8497) + worker;
  return { port, address: `http://127.0.0.1:${port}` };
}
