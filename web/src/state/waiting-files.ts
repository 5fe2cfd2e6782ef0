/** Files dropped on the shelf, for the project that is opened next to import. */
export const waitingFiles: File[] = [];
