import { useEffect, useState } from "react";
import { entries, onChange } from "../outbox/outbox.ts";

/** A picture by its id, small, opening whole: from this device while it is held here, from the server after. */
export function Picture({ id, name }: { id: string; name: string }) {
  const held = useHeldPicture(id);
  const [missing, setMissing] = useState(false);
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
function useHeldPicture(id: string): string | undefined {
  const [url, setUrl] = useState<string>();
  useEffect(() => {
    let made: string | undefined;
    let gone = false;
    const look = async () => {
      const found = (await entries()).find((entry) => entry.id === id && entry.content);
      if (gone || (found !== undefined) === (made !== undefined)) return;
      if (made) URL.revokeObjectURL(made);
      made = found?.content && URL.createObjectURL(found.content);
      setUrl(made);
    };
    void look();
    const stop = onChange(() => void look());
    return () => {
      gone = true;
      stop();
      if (made) URL.revokeObjectURL(made);
    };
  }, [id]);
  return url;
}
