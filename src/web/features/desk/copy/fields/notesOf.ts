/** The id of what stands below a field: why it is not stored, and what was found there. Read out with the field. */
export const notesOf = (field: string) => `${field}-notes`;
