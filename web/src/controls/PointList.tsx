import { Fragment, type ReactNode } from "react";
import { usePointing } from "../state/pointing";
import { useApp } from "../state/store";
import type { Edit } from "../state/app";
import { moved, tabOf } from "./roving";
import css from "./PointList.module.css";

interface Item {
  /** By which it is told from the others. */
  name: string;
  label: ReactNode;
  detail?: ReactNode;
  /** A heading that stands before it. */
  under?: string;
  edit: Edit;
}

interface Props {
  label: string;
  items: readonly Item[];
  /** The name of the item that stands; absent: none does. */
  standing?: string;
  /** What is done once one was taken. */
  onKept?: (item: Item) => void;
}

/** A list of which each item is tried in the place of what stands while it is pointed at, by the arrow keys too, and kept
 * by a click or Enter. Leaving it puts back what stood. */
export function PointList({ label, items, standing, onKept }: Props) {
  const pointing = usePointing(false);
  const any = items.some((i) => i.name === standing);
  return (
    // oxlint-disable-next-line jsx-a11y/no-static-element-interactions -- the arrows go from button to button
    <div
      className={css.list}
      role="group"
      aria-label={label}
      onKeyDown={(e) => {
        const all = [...e.currentTarget.querySelectorAll("button")];
        const to = moved(e.key, all.indexOf(document.activeElement as HTMLButtonElement), all.length);
        if (to === null) return;
        e.preventDefault();
        all[to]!.focus();
      }}
      onPointerLeave={() => pointing.name && pointing.leave()}
      onBlur={(e) => !e.currentTarget.contains(e.relatedTarget) && pointing.name && pointing.leave()}
    >
      {items.map((item, i) => (
        <Fragment key={item.name}>
          {item.under && <div className={css.under}>{item.under}</div>}
          <button
            type="button"
            data-heard={pointing.name === item.name}
            aria-pressed={standing === undefined ? undefined : item.name === standing}
            tabIndex={tabOf(item.name === standing, any, i === 0)}
            onPointerEnter={() => pointing.point(item.name, item.edit)}
            onFocus={(e) => e.currentTarget.matches(":focus-visible") && pointing.point(item.name, item.edit)}
            onClick={() =>
              void useApp
                .getState()
                .edit(item.edit)
                .then((made) => made && onKept?.(item))
            }
          >
            <span>{item.label}</span>
            <span>{item.detail}</span>
          </button>
        </Fragment>
      ))}
      {pointing.problem && <p role="alert">{pointing.problem}</p>}
    </div>
  );
}
