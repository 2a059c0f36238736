import { api } from "../api/client";
import { useDeleted } from "../api/queries";
import css from "./Deleted.module.css";

/** What was deleted in the last 30 days, to be brought back; open at once where something
 * was deleted just now. */
export function Deleted({
  what,
  fresh,
  attempt,
  onBack,
}: {
  what: "pieces" | "starters";
  fresh: boolean;
  attempt: (work: () => Promise<void>) => Promise<void>;
  onBack: () => Promise<unknown>;
}) {
  const { data, refetch } = useDeleted(what);
  if (!data?.length) return null;
  return (
    <details className={css.deleted} open={fresh || undefined}>
      <summary>Deleted, kept for 30 days ({data.length})</summary>
      <ul>
        {data.map((gone) => (
          <li key={gone.id}>
            <span>
              {gone.name} <span className="quiet">deleted {new Date(gone.deleted).toLocaleString()}</span>
            </span>
            <button
              type="button"
              aria-label={`Bring back ${gone.name}`}
              onClick={() =>
                void attempt(async () => {
                  await api.bringBack(what, gone.id);
                  await Promise.all([refetch(), onBack()]);
                })
              }
            >
              Bring back
            </button>
          </li>
        ))}
      </ul>
    </details>
  );
}
