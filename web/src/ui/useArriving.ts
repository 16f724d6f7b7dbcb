import { useEffect, useState } from "react";

/** True while a card has just come: nobody has read it yet, so what is pressed was meant for the one before. */
export function useArriving() {
  const [arriving, setArriving] = useState(true);
  useEffect(() => {
    const read = setTimeout(() => setArriving(false), 400);
    return () => clearTimeout(read);
  }, []);
  return arriving;
}
