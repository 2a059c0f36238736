import { useEffect, useState } from "react";
import { after } from "../underway";

/** A value once it has stayed the same for so many ms. */
export function useSettled<T>(value: T, ms: number): T {
  const [settled, settle] = useState(value);
  const text = JSON.stringify(value);
  const same = text === JSON.stringify(settled);
  useEffect(() => {
    if (!same) return after(ms, () => settle(JSON.parse(text) as T));
  }, [same, text, ms]);
  return settled;
}
