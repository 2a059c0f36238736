/** So many of something: "1 bar", "7 bars"; more: what several are called, where that is not one and an s. */
export const many = (count: number | string, one: string, more = `${one}s`): string =>
  `${count} ${String(count) === "1" ? one : more}`;
