/** A text that is one of some words, or undefined where it is none of them. */
export const among = <T extends string>(words: readonly T[], text: string | undefined): T | undefined => words.find((w) => w === text);
