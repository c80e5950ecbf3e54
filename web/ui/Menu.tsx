import * as Dropdown from "@radix-ui/react-dropdown-menu";
import type { ReactNode } from "react";

export interface MenuAction {
  name: string;
  icon?: ReactNode;
  disabled?: boolean;
  onSelect: () => void;
}

/** A button that opens a short list of actions. */
export function Menu({ trigger, actions }: { trigger: ReactNode; actions: readonly MenuAction[] }) {
  return (
    <Dropdown.Root modal={false}>
      <Dropdown.Trigger asChild>{trigger}</Dropdown.Trigger>
      <Dropdown.Portal>
        <Dropdown.Content
          align="end"
          sideOffset={4}
          collisionPadding={8}
          className="z-30 min-w-52 rounded border border-rule bg-sheet p-1 shadow-lg"
        >
          {actions.map(({ name, icon, disabled = false, onSelect }) => (
            <Dropdown.Item
              key={name}
              disabled={disabled}
              onSelect={onSelect}
              className="target flex cursor-pointer items-center gap-2 rounded px-2.5 text-[15px] outline-none data-disabled:cursor-default data-disabled:opacity-45 data-highlighted:bg-press"
            >
              {icon}
              {name}
            </Dropdown.Item>
          ))}
        </Dropdown.Content>
      </Dropdown.Portal>
    </Dropdown.Root>
  );
}
