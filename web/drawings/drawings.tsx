import type { ReactNode } from "react";
import type { JobKindId } from "#contract/documents/jobKinds.ts";

/** The size every drawing of a kind of job is drawn at. */
export const DRAWN = { width: 360, height: 440 };

/** What a job is about, as it lies there: on its tile, and with its dimensions as fields on its sketch card. */
export const DRAWINGS: Record<JobKindId, () => ReactNode> = {
  "sump-riser": () => (
    <>
      <PumpedPit />
      <Arrow from={[122, 338]} to={[122, 296]} />
    </>
  ),
  emptying: () => (
    <>
      <Earth d="M0 330H360V440H0Z M0 90H28V330H0Z M226 120H248V330H226Z M248 160H360V330H248Z" />
      <Wall d="M28 60V330H226V120H248V160H360" />
      <Still x={28} y={268} width={198} height={61} />
      <Pipe d="M196 318C196 220 190 104 237 104S330 120 332 150" soft />
      <Falls x={332} y={150} />
      <Motor x={188} y={314} />
      <Reach from={[120, 269]} to={[120, 328]} />
      <Reach from={[214, 104]} to={[214, 328]} />
      <Reach from={[196, 86]} to={[332, 86]} />
      <Reach from={[30, 346]} to={[224, 346]} />
      <Reach from={[250, 346]} to={[290, 336]} />
      <Clock x={58} y={108} />
    </>
  ),
  "yard-drain": () => (
    <>
      <PumpedPit />
      <Wall d="M4 196L50 164L96 196M16 196V220M84 196V220" />
      <Pipe d="M88 198V236L130 248" />
    </>
  ),
  "tank-to-tank": () => (
    <>
      <Earth d="M0 352H360V440H0Z" />
      <Wall d="M0 352H360" />
      <Still x={14} y={262} width={96} height={88} />
      <Tank d="M14 226V350H110V226" />
      <Still x={262} y={136} width={84} height={60} />
      <Tank d="M262 96V196H346V96" />
      <Tank d="M274 196V350M334 196V350" />
      <Pipe d="M110 336H222V82H276" />
      <Falls x={276} y={82} />
      <Motor x={158} y={336} />
      <Reach from={[98, 263]} to={[98, 348]} />
      <Reach from={[110, 366]} to={[156, 366]} />
      <Reach from={[162, 366]} to={[288, 366]} />
      <Reach from={[240, 84]} to={[240, 350]} />
    </>
  ),
  "well-to-tank": () => (
    <>
      <Earth d="M0 96H164V414H206V96H360V440H0Z" />
      <Wall d="M0 96H160M210 96H360" />
      <Still x={166} y={218} width={38} height={196} />
      <Tank d="M164 78V414H206V78" />
      <Pipe d="M185 372V66H308V50" />
      <Vessel x={308} y={32} />
      <Motor x={185} y={376} narrow />
      <Reach from={[150, 98]} to={[150, 216]} />
      <Reach from={[220, 98]} to={[220, 288]} />
      <Still x={206} y={288} width={12} height={2} />
      <Reach from={[134, 98]} to={[134, 412]} />
      <Reach from={[236, 62]} to={[236, 94]} />
      <Reach from={[188, 56]} to={[300, 56]} />
    </>
  ),
  "pond-to-field": () => (
    <>
      <Earth d="M0 352L66 338L96 226H212L330 176H360V440H0Z" />
      <Wall d="M0 352L66 338L96 226H212L330 176H360" />
      <Still x={0} y={300} width={78} height={50} />
      <Pipe d="M48 330L96 212H122" />
      <Pipe d="M122 212L216 216L318 168V132" soft />
      <Motor x={124} y={208} />
      <Spray x={318} y={128} />
      <Reach from={[30, 210]} to={[30, 298]} />
      <Reach from={[130, 262]} to={[318, 262]} />
      <Reach from={[338, 134]} to={[338, 208]} />
    </>
  ),
  "plain-line": () => (
    <>
      <Earth d="M0 352L84 336L112 300H236L260 130H360V440H0Z" />
      <Wall d="M0 352L84 336L112 300H236L260 130H360" />
      <Still x={0} y={312} width={102} height={36} />
      <Pipe d="M62 332L112 288H226L254 118H322" />
      <Motor x={60} y={334} />
      <Falls x={322} y={118} />
      <Reach from={[340, 124]} to={[340, 310]} />
      <Reach from={[64, 372]} to={[320, 372]} />
    </>
  ),
  measuring: () => (
    <>
      <Wall d="M60 352H300" />
      <Still x={124} y={246} width={112} height={104} />
      <Tank d="M112 180L126 350H234L248 180" />
      <Pipe d="M40 118H180V140" />
      <Falls x={180} y={140} tall />
      <Clock x={290} y={230} large />
    </>
  ),
};

/** A pit in the ground with a pump on its bottom, and the riser that takes the water out. */
function PumpedPit() {
  return (
    <>
      <Earth d="M0 220H130V362H215V220H236V440H0Z M236 220H360V440H236Z" />
      <Wall d="M0 220H130V362H215V220H360" />
      <Still x={130} y={290} width={85} height={71} />
      <Pipe d="M172 345V104H330" />
      <Falls x={330} y={104} />
      <Motor x={172} y={342} />
      <Reach from={[236, 104]} to={[236, 217]} />
      <Reach from={[226, 224]} to={[226, 360]} />
      <Reach from={[174, 90]} to={[328, 90]} />
      <Reach from={[132, 374]} to={[213, 374]} />
    </>
  );
}

const INK = { stroke: "var(--ink)", fill: "none", strokeWidth: 2.5 } as const;

const Earth = ({ d }: { d: string }) => <path d={d} fill="var(--rule)" opacity={0.55} />;
const Wall = ({ d }: { d: string }) => <path d={d} {...INK} strokeLinejoin="round" />;
const Tank = ({ d }: { d: string }) => <path d={d} {...INK} strokeWidth={3} />;

/** Water that stands, with its surface. */
function Still(box: { x: number; y: number; width: number; height: number }) {
  const { x, y, width } = box;
  return (
    <>
      <rect {...box} fill="var(--water)" opacity={0.25} />
      <path d={`M${x} ${y}h${width}`} stroke="var(--water)" strokeWidth={2.5} fill="none" />
    </>
  );
}

function Pipe({ d, soft }: { d: string; soft?: boolean }) {
  const line = (stroke: string, strokeWidth: number) => (
    <path
      {...{ d, stroke, strokeWidth }}
      fill="none"
      strokeLinejoin={soft ? "round" : "miter"}
      strokeLinecap="round"
    />
  );
  return (
    <>
      {line("var(--ink)", 10)}
      {line("var(--sheet)", 7)}
      {line("var(--water)", 4)}
    </>
  );
}

function Motor({ x, y, narrow }: { x: number; y: number; narrow?: boolean }) {
  const half = narrow ? 9 : 15;
  return (
    <rect
      x={x - half}
      y={y - (narrow ? 22 : 15)}
      width={2 * half}
      height={narrow ? 46 : 30}
      rx={7}
      fill="var(--pump)"
      stroke="var(--sheet)"
      strokeWidth={2}
    />
  );
}

/** Water leaving into the open. */
const Falls = ({ x, y, tall }: { x: number; y: number; tall?: boolean }) => (
  <path
    d={tall ? `M${x - 3} ${y + 4}v98m6 -98v98` : `M${x + 4} ${y}q16 4 18 34m-18 -32q8 8 9 28`}
    stroke="var(--water)"
    strokeWidth={2.6}
    fill="none"
    strokeLinecap="round"
  />
);

const Spray = ({ x, y }: { x: number; y: number }) => (
  <path
    d={`M${x} ${y}q-46 -78 -150 -44m150 44q-40 -44 -112 -18m112 18q-24 -20 -66 0`}
    stroke="var(--water)"
    strokeWidth={2.6}
    fill="none"
    strokeLinecap="round"
    strokeDasharray="10 5"
  />
);

/** A closed tank that holds a pressure. */
const Vessel = ({ x, y }: { x: number; y: number }) => (
  <rect
    x={x - 20}
    y={y - 26}
    width={40}
    height={44}
    rx={18}
    fill="var(--sheet)"
    stroke="var(--ink)"
    strokeWidth={2.5}
  />
);

const Clock = ({ x, y, large }: { x: number; y: number; large?: boolean }) => {
  const r = large ? 34 : 15;
  return (
    <>
      <circle cx={x} cy={y} r={r} {...INK} fill="var(--sheet)" />
      <path d={`M${x} ${y - r * 0.6}V${y}L${x + r * 0.45} ${y + r * 0.25}`} {...INK} />
    </>
  );
};

const Arrow = ({ from, to }: { from: Spot; to: Spot }) => (
  <path
    d={`M${from[0]} ${from[1]}L${to[0]} ${to[1]}m-5 8l5 -8l5 8`}
    stroke="var(--water)"
    strokeWidth={2}
    fill="none"
  />
);

type Spot = readonly [x: number, y: number];

/** A dimension: a thin line with a tick across each end. */
function Reach({ from: [x1, y1], to: [x2, y2] }: { from: Spot; to: Spot }) {
  const long = Math.hypot(x2 - x1, y2 - y1);
  const [tx, ty] = [(-(y2 - y1) / long) * 5, ((x2 - x1) / long) * 5];
  return (
    <path
      d={`M${x1} ${y1}L${x2} ${y2}M${x1 - tx} ${y1 - ty}L${x1 + tx} ${y1 + ty}M${x2 - tx} ${y2 - ty}L${x2 + tx} ${y2 + ty}`}
      className="dimension"
      stroke="var(--soft)"
      strokeWidth={1.4}
      fill="none"
    />
  );
}
