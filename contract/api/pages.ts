/** What a person prefers on a device, in the browser's own hands and told with every page asked for. */
export const SETTINGS_COOKIE = "settings";

/** What a page is drawn from before it is sent. */
export interface PageAsked {
  /** path and search of its address */
  address: string;
  /** what the person prefers on this device, as the browser keeps it for the server; empty where it never did */
  settings: string;
  /** languages the browser asks for, the dearest first, as HTTP says them */
  languages: string;
  /** the server's answers that the page begins with, each the JSON of its address */
  answers: Readonly<Record<string, string>>;
}

/** What a page that was drawn beforehand brings with it. */
export interface PageArrived {
  /** what it was drawn by: a page that is preferred otherwise is drawn anew */
  settings: string;
  answers: Readonly<Record<string, unknown>>;
}

/** A page as HTML. */
export interface PageDrawn {
  html: string;
  settings: string;
  theme: string;
}
