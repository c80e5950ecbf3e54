type Field = HTMLInputElement | HTMLTextAreaElement | HTMLSelectElement;

/** What was typed or chosen before the application was there, the last of each field. */
const typed = new Map<Field, string>();

const isField = (target: EventTarget | null): target is Field =>
  target instanceof HTMLInputElement ||
  target instanceof HTMLTextAreaElement ||
  target instanceof HTMLSelectElement;

/** What is ticked is no text: it goes back to how it was sent, where everybody sees it. */
const isTicked = (field: Field) => field.type === "checkbox" || field.type === "radio";

function keep({ target }: Event): void {
  if (isField(target) && !isTicked(target)) typed.set(target, target.value);
}
/** Nobody would hear it: the browser would leave the page. */
const stay = (event: Event) => event.preventDefault();

/** From here on nothing that is typed into a page is lost, though nothing listens to it yet. */
export function keepEarly(): void {
  addEventListener("input", keep, true);
  addEventListener("change", keep, true);
  addEventListener("submit", stay, true);
}

/**
 * Puts every field back to what it was sent with, but those that were typed into: a browser fills a page that is opened
 * again with what its fields held, and the application would go by something else.
 */
export function settleFields(root: HTMLElement): void {
  for (const field of root.querySelectorAll<Field>("input, textarea, select")) {
    if (typed.has(field)) continue;
    if (field instanceof HTMLSelectElement) {
      for (const option of field.options) {
        if (option.selected !== option.defaultSelected) option.selected = option.defaultSelected;
      }
      continue;
    }
    if (field instanceof HTMLInputElement && field.checked !== field.defaultChecked) {
      field.checked = field.defaultChecked;
    }
    const isText = !(field instanceof HTMLInputElement) || field.type !== "file";
    if (isText && field.value !== field.defaultValue) field.value = field.defaultValue;
  }
}

/** The application is there: it hears what was typed before, as if it were typed now. */
export function takeEarly(): void {
  removeEventListener("input", keep, true);
  removeEventListener("change", keep, true);
  removeEventListener("submit", stay, true);
  for (const [field, text] of typed) if (field.isConnected) say(field, text);
  typed.clear();
}

function say(field: Field, text: string): void {
  const isFile = field instanceof HTMLInputElement && field.type === "file";
  if (!isFile) {
    // React takes no event for one whose text it believes it knows: it watches the element's own property, and is told
    // another one by it.
    field.value = "";
    const { prototype } = field.constructor as { prototype: Field };
    Object.getOwnPropertyDescriptor(prototype, "value")?.set?.call(field, text);
  }
  const kind = isFile || field instanceof HTMLSelectElement ? "change" : "input";
  field.dispatchEvent(new Event(kind, { bubbles: true }));
}
