/** What the backing beats are called. */
export const beatNames: Record<string, string> = {
  off: "No beat",
  click: "Click",
  four: "Four on the floor",
  half: "Half-time",
  broken: "Broken",
};
