import { useInViewport } from "@mantine/hooks";
import { useState } from "react";
import type { Summary } from "../api/gen/store.gen";
import { useCard } from "../api/queries";
import { Miniature } from "../clips/Miniature";
import { Choice } from "../controls/Choice";
import { many } from "../words";
import css from "./Home.module.css";

interface Props {
  list: readonly Summary[];
  open: (id: string) => void;
  remove: (piece: Summary) => void;
}

const orders = { changed: "latest changed first", name: "by name" };

/** Dates as the user writes them. */
const written = new Intl.DateTimeFormat(undefined, { dateStyle: "medium", timeStyle: "short" });

/** The pieces that are there, to be found by name. */
export function PieceList({ list, open, remove }: Props) {
  const [wanted, setWanted] = useState("");
  const [order, setOrder] = useState("changed");
  const words = wanted.trim().toLocaleLowerCase();
  const found = list.filter((p) => p.title.toLocaleLowerCase().includes(words));
  if (order === "name") found.sort((a, b) => a.title.localeCompare(b.title, undefined, { numeric: true }));
  return (
    <>
      {list.length > 1 && (
        <div className={css.find}>
          <input
            type="search"
            aria-label="Find a piece by its name"
            placeholder="find by name"
            value={wanted}
            onChange={(e) => setWanted(e.target.value)}
          />
          <Choice
            label="Order of the pieces"
            value={order}
            all={Object.keys(orders)}
            words={orders}
            onChange={setOrder}
          />
        </div>
      )}
      {found.length === 0 && <p className="quiet">No piece is called so. There are {many(list.length, "piece")}.</p>}
      <ul className={css.list}>
        {found.map((p) => (
          <Row key={p.id} piece={p} open={open} remove={remove} />
        ))}
      </ul>
    </>
  );
}

function Row({ piece, open, remove }: { piece: Summary } & Pick<Props, "open" | "remove">) {
  const { ref, inViewport } = useInViewport<HTMLLIElement>();
  const [seen, setSeen] = useState(false);
  if (inViewport && !seen) setSeen(true);
  const card = useCard(piece.id, piece.updated, seen).data;
  return (
    <li ref={ref}>
      <button className={css.piece} onClick={() => open(piece.id)}>
        <span className={css.drawing}>{card?.first && <Miniature thumb={card.first} />}</span>
        <span className={css.told}>
          <b>{piece.title}</b>
          <span className="quiet">
            {card && (
              <span className="mono">
                {card.key} · {card.tempo} bpm · {card.meter} · {many(card.clips, "clip")}
              </span>
            )}
          </span>
        </span>
        <span className="quiet">changed {written.format(new Date(piece.updated))}</span>
      </button>
      <button className={css.remove} aria-label={`Delete ${piece.title}`} onClick={() => remove(piece)}>
        Delete
      </button>
    </li>
  );
}
