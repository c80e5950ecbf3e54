import * as Popover from "@radix-ui/react-popover";
import clsx from "clsx";
import { Command } from "cmdk";
import { useState } from "react";
import { fitOf } from "./fitOf.ts";

export interface SearchOption {
  value: string;
  name: string;
  group: string;
}

/**
 * A choice of one out of many, found by typing a part or two of its name: "2 pvc". The list is made when it is opened:
 * a line of two hundred rows would otherwise carry twenty thousand options.
 */
export function SearchField({
  label,
  visibleLabel,
  value,
  shown,
  options,
  onChange,
  className,
}: {
  label: string;
  visibleLabel?: boolean;
  value: string;
  /** what is chosen, in words */
  shown: string;
  options: readonly SearchOption[];
  onChange: (value: string) => void;
  className?: string;
}) {
  const [open, setOpen] = useState(false);
  return (
    <div className={clsx("min-w-0", className)}>
      {visibleLabel && (
        <span className="block text-[13px] text-soft" aria-hidden>
          {label}
        </span>
      )}
      <Popover.Root open={open} onOpenChange={setOpen}>
        <Popover.Trigger
          aria-label={`${label}: ${shown}`}
          className="entry target flex items-center justify-between gap-1 text-left"
        >
          <span className="min-w-0 truncate">{shown}</span>
          <span aria-hidden className="text-[11px] text-soft">
            ▾
          </span>
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            align="start"
            sideOffset={4}
            collisionPadding={8}
            className="z-30 w-[min(22rem,94vw)] rounded border border-rule bg-sheet p-1 shadow-lg"
          >
            <Command label={`Search: ${label}`} filter={fitOf} defaultValue={shown}>
              <Command.Input placeholder="Type a size or a name" className="entry target mb-1" />
              <Command.List className="max-h-[min(20rem,44vh)] overflow-y-auto">
                <Command.Empty className="p-3 text-soft">Nothing by that name.</Command.Empty>
                {groupsOf(options).map(({ group, own }) => (
                  <Command.Group
                    key={group}
                    heading={<span className="px-2 text-[13px] text-soft">{group}</span>}
                  >
                    {own.map((option) => (
                      <Command.Item
                        key={option.value}
                        value={option.name}
                        onSelect={() => {
                          setOpen(false);
                          if (option.value !== value) onChange(option.value);
                        }}
                        className={clsx(
                          "target flex cursor-pointer items-center rounded px-2 data-[selected=true]:bg-press",
                          option.value === value && "font-semibold",
                        )}
                      >
                        {option.name}
                      </Command.Item>
                    ))}
                  </Command.Group>
                ))}
              </Command.List>
            </Command>
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </div>
  );
}

/** The options under their headings, in the order they come. */
function groupsOf(options: readonly SearchOption[]) {
  const groups = new Map<string, SearchOption[]>();
  for (const option of options)
    groups.set(option.group, [...(groups.get(option.group) ?? []), option]);
  return [...groups].map(([group, own]) => ({ group, own }));
}
