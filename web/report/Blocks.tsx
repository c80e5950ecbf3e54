import { lazy, Suspense } from "react";
import type { Block } from "#report/blocks.ts";
import { Picture } from "../pictures/Picture.tsx";
import { TriangleAlert } from "../ui/icons.ts";
import { Loading } from "../ui/Notices.tsx";
import { StatusMark } from "../ui/StatusMark.tsx";

const DerivationSteps = lazy(() => import("../derivation/DerivationSheet.tsx"));

/** A report on the screen; the same on paper. */
export function Blocks({ blocks }: { blocks: readonly Block[] }) {
  return blocks.map((block, i) => <Piece key={i} block={block} />);
}

function Piece({ block }: { block: Block }) {
  switch (block.kind) {
    case "heading":
      return block.level === 1 ? (
        <h1 className="text-3xl">{block.text}</h1>
      ) : (
        <h2 className="mt-5 border-b border-rule pb-1 text-xl">{block.text}</h2>
      );
    case "paragraph":
      return <p className="mt-1 max-w-[70ch] whitespace-pre-line">{block.text}</p>;
    case "finding":
      return (
        <div className="mt-2 break-inside-avoid">
          <p className="flex items-center gap-2">
            <StatusMark severity={block.severity} />
            <span className="plate text-[18px]">{block.title}</span>
          </p>
          <p className="max-w-[70ch]">{block.text}</p>
          {block.advice && <p className="max-w-[70ch] font-medium">{block.advice}</p>}
        </div>
      );
    case "ticks":
      return (
        <div className="mt-4">
          <p className="text-[13px] text-soft">{block.caption}</p>
          <ul className="grid gap-x-6 sm:grid-cols-2">
            {block.items.map(({ text, done }) => (
              <li key={text} className="flex items-start gap-2 text-[15px]">
                <span aria-hidden className="plate">
                  {done ? "☑" : "☐"}
                </span>
                <span>
                  {text}
                  <span className="sr-only">{done ? ": seen to" : ": not ticked"}</span>
                </span>
              </li>
            ))}
          </ul>
        </div>
      );
    case "pictures":
      return (
        <figure className="mt-4">
          <figcaption className="text-[13px] text-soft">{block.caption}</figcaption>
          <div className="mt-1 flex flex-wrap gap-2">
            {block.pictures.map(({ id, name }) => (
              <Picture key={id} {...{ id, name }} />
            ))}
          </div>
        </figure>
      );
    case "caution":
      return (
        <p className="mt-6 flex max-w-[75ch] items-start gap-2 border-t-2 border-signal pt-2">
          <TriangleAlert size={20} className="mt-0.5 shrink-0 text-signal" aria-hidden />
          {block.text}
        </p>
      );
    case "derivation":
      return (
        <section aria-label={block.title} className="mt-5 max-w-xl">
          <h2 className="pb-2 text-xl">{block.title}</h2>
          <Suspense fallback={<Loading what="the working" />}>
            <DerivationSteps steps={block.steps} />
          </Suspense>
        </section>
      );
    case "table":
      return (
        <table className="mt-2 min-w-72 break-inside-auto text-[15px]">
          <caption className="pb-1 text-left text-[13px] text-soft">{block.caption}</caption>
          <thead>
            <tr>
              {block.columns.map(({ name, align }) => (
                <th
                  key={name}
                  className={`pr-6 text-[13px] last:pr-0 font-normal text-soft ${align === "right" ? "text-right" : "text-left"}`}
                >
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {block.rows.map((row, r) => (
              <tr key={r} className="break-inside-avoid border-t border-rule">
                {row.map((cell, c) => (
                  <td
                    key={c}
                    className={`py-0.5 pr-6 last:pr-0 ${block.columns[c]?.align === "right" ? "text-right whitespace-nowrap" : ""}`}
                  >
                    {cell}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      );
  }
}
