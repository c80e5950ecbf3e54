import { useId, useRef, useState } from "react";
import { readTextFile } from "../lib/readTextFile.ts";

/** Where a table comes from: a file, or what is pasted out of a spreadsheet. */
export function TableSource({
  says,
  placeholder,
  accept = ".csv,.txt,text/csv,text/plain",
  pastes = true,
  label = "CSV file",
  onText,
}: {
  /** what its rows are to be */
  says: string;
  placeholder?: string;
  accept?: string;
  /** a file alone may be longer than anybody would paste */
  pastes?: boolean;
  label?: string;
  /** @param file its name, where it came out of one */
  onText: (text: string, file?: string) => void;
}) {
  const id = useId();
  const [pasted, setPasted] = useState("");
  /** the file that was given last, unless something was pasted since: one that is read later than that comes too late */
  const given = useRef<File>(undefined);
  return (
    <div className="grid gap-2">
      <p className="text-[13px] text-soft">{says}</p>
      <label className="block text-[14px]">
        <span className="block text-[13px] text-soft">{label}</span>
        <input
          type="file"
          accept={accept}
          className="target w-full"
          onChange={(event) => {
            const file = event.target.files?.[0];
            given.current = file;
            setPasted("");
            onText("");
            // Not shown: a hundred thousand rows are no text to edit.
            if (!file) return;
            void readTextFile(file).then((text) => {
              if (given.current === file) onText(text, file.name);
            });
          }}
        />
      </label>
      {pastes && (
        <div>
          <label htmlFor={id} className="block text-[13px] text-soft">
            or pasted
          </label>
          <textarea
            id={id}
            className="entry mt-1 min-h-24 font-mono text-[13px]"
            value={pasted}
            placeholder={placeholder}
            onChange={(event) => {
              given.current = undefined;
              setPasted(event.target.value);
              onText(event.target.value);
            }}
          />
        </div>
      )}
    </div>
  );
}
