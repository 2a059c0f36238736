import "@fontsource/source-sans-3/latin-400.css";
import "@fontsource/source-sans-3/latin-600.css";
import "@fontsource/ibm-plex-mono/latin-400.css";
import "./styles.css";
import "./tokens.css";
import { MantineProvider } from "@mantine/core";
import { createRoot } from "react-dom/client";
import { QueryClientProvider } from "@tanstack/react-query";
import { queries } from "./api/queries";
import { App } from "./app/App";
import { atRest } from "./app/rest";
import { useLight } from "./light";
import { theme } from "./theme";

function Root() {
  return (
    <MantineProvider theme={theme} forceColorScheme={useLight() === "lamp" ? "dark" : "light"}>
      <QueryClientProvider client={queries}>
        <App />
      </QueryClientProvider>
    </MantineProvider>
  );
}

Object.assign(window, { atRest });
createRoot(document.getElementById("root")!).render(<Root />);
