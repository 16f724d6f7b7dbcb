const key = "ambivia-by";

/** Who works at this machine, as they call themselves; empty where nobody said. */
export const whoWorks = () => localStorage.getItem(key) ?? "";

export const setWhoWorks = (name: string) => localStorage.setItem(key, name.trim());
