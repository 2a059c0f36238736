/** So many of something: "1 bar", "7 bars". */
export const many = (count: number | string, one: string): string =>
  `${count} ${one}${String(count) === "1" ? "" : "s"}`;
