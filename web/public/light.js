// Puts the page into its light before it is drawn, so that nothing flashes.
{
  let chosen = "system";
  try {
    chosen = localStorage.getItem("agrimony light") ?? chosen;
  } catch {
    // then it goes by the system
  }
  const lamp = chosen === "lamp" || (chosen !== "day" && matchMedia("(prefers-color-scheme: dark)").matches);
  const root = document.documentElement;
  root.dataset.light = lamp ? "lamp" : "day";
  root.dataset.mantineColorScheme = lamp ? "dark" : "light";
}
