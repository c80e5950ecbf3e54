import type { Stored } from "#contract/api/api.ts";
import type { CollectionName, DocumentOf } from "#contract/collections.ts";
import { Button } from "../ui/Button.tsx";
import { Dialog } from "../ui/Dialog.tsx";
import { TwoVersions } from "./TwoVersions.tsx";
import type { Editing } from "./useEditing.ts";

/** Somebody else saved what is being changed here: field by field, one of the two is kept. */
export function EditedTwice<C extends CollectionName, T extends object>({
  editing,
  onKeep,
}: {
  editing: Editing<T, C>;
  /** saves what was put together over what somebody else saved */
  onKeep: (document: T, onto: Stored<DocumentOf<C>>) => void;
}) {
  const { other, value, base, goOnFrom, putOff } = editing;
  if (!other) return null;
  const theirs = other.document as unknown as T;
  return (
    <Dialog open onClose={putOff} title="Changed in two places">
      <p className="mb-3">
        Somebody else saved it at {new Date(other.updatedAt).toLocaleTimeString()}, while you
        changed it here.
      </p>
      <TwoVersions {...{ base, theirs }} mine={value} onKeep={(both) => onKeep(both, other)} />
      <Button look="quiet" className="mt-3" onClick={() => goOnFrom(other, theirs)}>
        Take the other, drop mine
      </Button>
    </Dialog>
  );
}
