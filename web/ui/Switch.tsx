/** One of several views, side by side; more than there is room for are scrolled. */
export function Switch<Value extends string>({
  label,
  options,
  value,
  onChange,
}: {
  label: string;
  options: readonly { value: Value; name: string }[];
  value: Value;
  onChange: (value: Value) => void;
}) {
  return (
    <div
      role="group"
      aria-label={label}
      className="flex shrink-0 overflow-x-auto border-b border-rule bg-press"
    >
      {options.map((option) => (
        <button
          key={option.value}
          type="button"
          aria-pressed={option.value === value}
          onClick={() => onChange(option.value)}
          className={`target plate flex-auto shrink-0 px-1.5 text-[17px] whitespace-nowrap ${
            option.value === value
              ? "bg-paper shadow-[inset_0_3px_0_var(--water)]"
              : "text-soft hover:text-ink"
          }`}
        >
          {option.name}
        </button>
      ))}
    </div>
  );
}
