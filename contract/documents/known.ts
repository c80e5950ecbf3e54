/**
 * A document's own fields. Schemas keep fields they do not know, which types as an index signature;
 * taking that away again lets the compiler catch a misspelt field.
 */
export type Known<T> = T extends readonly (infer Item)[]
  ? Known<Item>[]
  : T extends object
    ? { [Key in keyof T as string extends Key ? never : Key]: Known<T[Key]> }
    : T;
