/** A name for a file of what is called so, in any script. */
export const fileName = (name: string) =>
  name
    .toLowerCase()
    .replace(/[^\p{L}\p{N}\p{M}]+/gu, "-")
    .replace(/^-|-$/g, "")
    .slice(0, 80) || "ambivia";
