/** Media types of the files that become pictures. */
export const pictureTypes = ["image/png", "image/jpeg", "image/gif", "image/svg+xml"];
