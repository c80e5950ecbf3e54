import fc from "fast-check";
import { bisect } from "fmin/src/bisect.js";
import { lusolve } from "mathjs";
import { describe, expect, it } from "vitest";
import { addEntry, skyline, solveSkyline } from "../numeric/skyline.ts";
import { hazenWilliamsLoss } from "../pipe/hazenWilliams.ts";
import { type Link, type Network, solveNetwork } from "./network.ts";

/** A link that loses r q^n, odd in q. */
const power = (from: number, to: number, r: number, n = 2): Link => ({
  from,
  to,
  loss: (q) => Math.sign(q) * r * Math.abs(q) ** n,
});

function balanced(network: Network) {
  const solution = solveNetwork(network);
  if (solution.kind !== "balanced") throw new Error(JSON.stringify(solution));
  return solution;
}

/** Largest error of mass at a junction, m³/s, and of energy along a link, m. */
function errors(network: Network, { heads, flows }: { heads: number[]; flows: number[] }) {
  const net = network.inflows.slice(0, network.junctions);
  const head = (node: number) =>
    heads[node] ?? (network.fixedHeads[node - network.junctions] as number);
  let energy = 0;
  for (const [k, link] of network.links.entries()) {
    const q = flows[k] as number;
    if (link.from < network.junctions) net[link.from] = (net[link.from] as number) - q;
    if (link.to < network.junctions) net[link.to] = (net[link.to] as number) + q;
    energy = Math.max(energy, Math.abs(head(link.from) - head(link.to) - link.loss(q)));
  }
  return { mass: Math.max(0, ...net.map(Math.abs)), energy };
}

describe("the global gradient solver", () => {
  it("splits flow between parallel pipes as a general bisection on the head does", () => {
    const r = [4e4, 9e4, 2.5e5];
    const network: Network = {
      junctions: 1,
      fixedHeads: [3],
      inflows: [0.012],
      links: r.map((resistance) => power(0, 1, resistance, 1.852)),
    };
    const { heads, flows } = balanced(network);
    const drop = bisect(
      (h: number) => r.reduce((sum, k) => sum + (h / k) ** (1 / 1.852), 0) - 0.012,
      0,
      100,
      { tolerance: 1e-13, maxIterations: 300 },
    );
    expect((heads[0] as number) - 3).toBeCloseTo(drop, 8);
    for (const [i, k] of r.entries()) expect(flows[i]).toBeCloseTo((drop / k) ** (1 / 1.852), 9);
  });

  it("balances a network of two loops as loop corrections by hand do", () => {
    // Six pipes round two loops sharing one: supply at A, 0.1 m³/s; demands at C, D and F. The other
    // method: Hardy Cross's loop corrections, each loop's closed by a general bisection in turn.
    const pipe = (length: number, bore: number) => (q: number) =>
      Math.sign(q) *
      hazenWilliamsLoss({ length, bore, roughness: 0, hazenWilliamsC: 120 }, Math.abs(q));
    const [AB, BC, CD, AD, BE, EF, CF] = [
      pipe(300, 0.25),
      pipe(300, 0.2),
      pipe(350, 0.15),
      pipe(300, 0.2),
      pipe(250, 0.15),
      pipe(300, 0.15),
      pipe(250, 0.15),
    ] as const;
    let one = 0;
    let two = 0;
    const flowsOf = (a: number, b: number) => ({
      ab: 0.06 + a,
      ad: 0.04 - a,
      bc: 0.04 + a - b,
      be: 0.02 + b,
      ef: 0.02 + b,
      cf: 0.01 - b,
      dc: 0.01 - a,
    });
    const loop1 = (a: number, b: number) => {
      const q = flowsOf(a, b);
      return AB(q.ab) + BC(q.bc) - AD(q.ad) - CD(q.dc);
    };
    const loop2 = (a: number, b: number) => {
      const q = flowsOf(a, b);
      return BE(q.be) + EF(q.ef) - CF(q.cf) - BC(q.bc);
    };
    for (let i = 0; i < 200; i++) {
      one = bisect((a: number) => loop1(a, two), -0.2, 0.2, {
        tolerance: 1e-15,
        maxIterations: 200,
      });
      two = bisect((b: number) => loop2(one, b), -0.2, 0.2, {
        tolerance: 1e-15,
        maxIterations: 200,
      });
    }
    const expected = flowsOf(one, two);
    // A is the fixed head; B 0, C 1, D 2, E 3, F 4.
    const network: Network = {
      junctions: 5,
      fixedHeads: [60],
      inflows: [0, -0.04, -0.03, 0, -0.03],
      links: [
        { from: 5, to: 0, loss: AB },
        { from: 5, to: 2, loss: AD },
        { from: 0, to: 1, loss: BC },
        { from: 0, to: 3, loss: BE },
        { from: 3, to: 4, loss: EF },
        { from: 1, to: 4, loss: CF },
        { from: 2, to: 1, loss: CD },
      ],
    };
    const { flows } = balanced(network);
    for (const [i, q] of [
      expected.ab,
      expected.ad,
      expected.bc,
      expected.be,
      expected.ef,
      expected.cf,
      expected.dc,
    ].entries()) {
      expect(flows[i]).toBeCloseTo(q, 8);
    }
  });

  it("keeps mass to 1e-9 m³/s and energy round every loop, on any connected network", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 14 }),
        fc.array(fc.tuple(fc.nat(), fc.nat(), fc.double({ min: 2, max: 7, noNaN: true })), {
          maxLength: 20,
        }),
        fc.array(fc.double({ min: -0.02, max: 0.02, noNaN: true }), {
          minLength: 14,
          maxLength: 14,
        }),
        fc.array(fc.double({ min: 2, max: 7, noNaN: true }), { minLength: 14, maxLength: 14 }),
        (junctions, extra, demands, spine) => {
          const nodes = junctions + 2;
          const links: Link[] = Array.from({ length: junctions }, (_, i) =>
            power(i === 0 ? junctions : i - 1, i, 10 ** (spine[i] as number), 1.9),
          );
          links.push(power(junctions - 1, junctions + 1, 1e4));
          for (const [a, b, r] of extra) {
            if (a % nodes !== b % nodes) links.push(power(a % nodes, b % nodes, 10 ** r, 1.852));
          }
          const network: Network = {
            junctions,
            fixedHeads: [20, 12],
            inflows: demands.slice(0, junctions),
            links,
          };
          const found = balanced(network);
          const { mass, energy } = errors(network, found);
          expect(mass).toBeLessThan(1e-9);
          expect(energy).toBeLessThan(
            Math.max(1e-5, 1e-8 * Math.max(...found.heads.map(Math.abs))),
          );
        },
      ),
      { numRuns: 300 },
    );
  });

  it("shuts a one-way link against water that would run back", () => {
    const network: Network = {
      junctions: 1,
      fixedHeads: [5, 10],
      inflows: [0],
      links: [{ ...power(1, 0, 1e4), oneWay: true }, power(0, 2, 1e4)],
    };
    const { flows, heads } = balanced(network);
    expect(Math.abs(flows[0] as number)).toBeLessThan(1e-10);
    expect(heads[0]).toBeCloseTo(10, 6);
    // The other way round it opens.
    const open = balanced({ ...network, fixedHeads: [10, 5] });
    expect(open.flows[0]).toBeCloseTo(Math.sqrt(2.5 / 1e4), 9);
  });

  it("says when a junction is cut off", () => {
    expect(
      solveNetwork({ junctions: 2, fixedHeads: [1], inflows: [0, 0], links: [power(0, 2, 1e4)] })
        .kind,
    ).toBe("cut-off");
  });
});

it("solves skyline equations as a general package does", () => {
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: 0.1, max: 9, noNaN: true }), { minLength: 12, maxLength: 12 }),
      (values) => {
        const n = 6;
        const at = [
          [1, 0],
          [2, 1],
          [4, 1],
          [5, 0],
          [5, 3],
          [3, 2],
        ] as const;
        const full = Array.from({ length: n }, () => new Array<number>(n).fill(0));
        const room = [...at, ...Array.from({ length: n }, (_, i) => [i, i] as const)];
        const matrix = skyline(n, room);
        const set = (i: number, j: number, v: number) => {
          (full[i] as number[])[j] = v;
          (full[j] as number[])[i] = v;
          addEntry(matrix, i, j, v);
        };
        for (let i = 0; i < n; i++) set(i, i, 30 + (values[i] as number));
        for (const [k, [i, j]] of at.entries()) set(i, j, -(values[6 + k] as number));
        const right = values.slice(0, n);
        const expected = lusolve(full, right) as number[][];
        const found = Float64Array.from(right);
        expect(solveSkyline(matrix, found)).toBe(true);
        for (const [i, [x]] of expected.entries()) expect(found[i]).toBeCloseTo(x as number, 10);
      },
    ),
  );
});
