/** A fresh id for anything in a project. */
export const freshId = (): string => crypto.randomUUID();
