/** A figure of a drive, with what it stands on. */
export function Figure({
  name,
  value,
  note,
}: {
  name: string;
  value: string;
  note?: string | undefined;
}) {
  return (
    <div>
      <dt className="text-[13px] text-soft">{name}</dt>
      <dd>
        <span className="plate text-2xl leading-none">{value}</span>
        {note && <span className="block text-[13px] text-soft">{note}</span>}
      </dd>
    </div>
  );
}
