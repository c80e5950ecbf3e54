// npm run endure: every property and a hundred thousand random networks on fresh cases, as often as asked for:
// npm run endure -- 10. The seed of each round is printed first: SEED=n npx vitest run repeats it.
import { join } from "node:path";
import { fail, install, root, run } from "./tasks/prepare.mjs";

const rounds = Number(process.argv[2] ?? 3);
if (!(rounds >= 1)) fail("Say how many rounds: npm run endure -- 10");
await install();
const vitest = join(root, "node_modules", "vitest", "vitest.mjs");
for (let round = 1; round <= rounds; round++) {
  const seed = 1 + Math.floor(Math.random() * 1e6);
  console.log(`\nRound ${round} of ${rounds}, SEED=${seed}`);
  const env = { ...process.env, SEED: String(seed), NETWORKS: "100000" };
  const code = await run(process.execPath, [vitest, "run"], { env });
  if (code !== 0) fail(`Not every case held: SEED=${seed} NETWORKS=100000 npx vitest run`);
}
console.log(`\n${rounds} rounds held.`);
