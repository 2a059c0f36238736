import { chooseLight, useChosenLight, useLight, type Chosen } from "../light";
import { Popup } from "./Popup";
import css from "./LightChoice.module.css";

const names: Readonly<Record<Chosen, string>> = { system: "As the system", day: "By day", lamp: "By lamplight" };

/** By which light the page is shown. */
export function LightChoice({ className }: { className?: string | undefined }) {
  const chosen = useChosenLight();
  const lamp = useLight() === "lamp";
  return (
    <Popup
      button={
        <button type="button" className={className} aria-label="Light" title="Light: by day, or by lamplight">
          <svg width="16" height="16" viewBox="0 0 16 16" aria-hidden>
            <circle cx="8" cy="8" r="4.2" fill={lamp ? "var(--now)" : "none"} stroke="currentColor" strokeWidth="1.4" />
            <path d="M8 1v1.6M8 13.4V15M1 8h1.6M13.4 8H15" stroke="currentColor" strokeWidth="1.4" />
          </svg>
        </button>
      }
      position="bottom-end"
    >
      {(close: () => void) => (
        <div className={css.all} role="group" aria-label="Light">
          {(Object.keys(names) as Chosen[]).map((own) => (
            <button
              key={own}
              type="button"
              aria-pressed={own === chosen}
              onClick={() => {
                chooseLight(own);
                close();
              }}
            >
              {names[own]}
            </button>
          ))}
        </div>
      )}
    </Popup>
  );
}
