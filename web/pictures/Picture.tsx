import { useEffect, useRef, useState } from "react";
import { useHeldContent } from "../outbox/useHeld.ts";

/** A picture by its id, small, opening whole: from this device while it is held here, from the server after. */
export function Picture({ id, name }: { id: string; name: string }) {
  const { looked, url: held } = useHeldPicture(id);
  const [missing, setMissing] = useState(false);
  // The server is not asked for what was taken a moment ago and is still here.
  if (!looked) return <span className="inline-block h-18 w-24 rounded border border-rule" />;
  const source = held ?? `/api/attachments/${id}/content`;
  if (missing && held === undefined) {
    return (
      <span className="inline-flex h-18 w-24 items-center rounded border border-rule p-1 text-[12px] text-soft">
        {name} is on the server
      </span>
    );
  }
  return (
    <a href={source} target="_blank" rel="noreferrer" className="inline-block">
      <img
        src={source}
        alt={name}
        width={96}
        height={72}
        loading="lazy"
        onError={() => setMissing(true)}
        className="h-18 w-24 rounded border border-rule object-cover"
      />
    </a>
  );
}

/** Where the bytes of a picture are, while this device holds them. */
function useHeldPicture(id: string): { looked: boolean; url: string | undefined } {
  const { looked, content } = useHeldContent(id);
  // Each reading of the store gives a new object for the same bytes.
  const [url, setUrl] = useState<string>();
  const there = content !== undefined;
  const bytes = useRef(content);
  bytes.current = content;
  useEffect(() => {
    if (!there || !bytes.current) return;
    const made = URL.createObjectURL(bytes.current);
    setUrl(made);
    return () => {
      setUrl(undefined);
      URL.revokeObjectURL(made);
    };
  }, [there]);
  return { looked: looked && (!there || url !== undefined), url };
}
