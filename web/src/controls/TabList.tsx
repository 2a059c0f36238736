import { Tabs } from "@mantine/core";
import { useEffect, useRef, type ReactNode } from "react";
import css from "./TabList.module.css";

interface TabItem {
  value: string;
  label: ReactNode;
  title?: string;
}

interface Props {
  label?: string;
  value: string;
  onChange: (value: string) => void;
  items: readonly TabItem[];
  className?: string;
  tabClass?: string;
  /** A vertical list is walked with the arrows and chosen from with Enter. */
  vertical?: boolean;
  /** Puts one in the place of another, where they can be dragged. */
  onMove?: (value: string, to: string) => void;
}

/** What a tab is dragged as. */
const DRAGGED = "text/x-tab";

/** A list of tabs, one of which is chosen. */
export function TabList({ label, value, onChange, items, className, tabClass, vertical = false, onMove }: Props) {
  const list = useRef<HTMLDivElement>(null);
  const count = items.length;
  // What is chosen is in sight, however one came to it.
  useEffect(() => {
    if (vertical && count) list.current?.querySelector("[aria-selected=true]")?.scrollIntoView?.({ block: "nearest" });
  }, [vertical, value, count]);
  return (
    <Tabs
      ref={list}
      unstyled
      className={css.root}
      value={value}
      onChange={(next) => next !== null && onChange(next)}
      orientation={vertical ? "vertical" : "horizontal"}
      activateTabWithKeyboard={!vertical}
    >
      <Tabs.List aria-label={label} className={className}>
        {items.map((item) => (
          <Tabs.Tab
            key={item.value}
            value={item.value}
            className={tabClass}
            title={item.title}
            draggable={!!onMove}
            onDragStart={(e) => e.dataTransfer.setData(DRAGGED, item.value)}
            onDragOver={(e) => onMove && e.dataTransfer.types.includes(DRAGGED) && e.preventDefault()}
            onDrop={(e) => {
              const moved = e.dataTransfer.getData(DRAGGED);
              if (!onMove || !moved || moved === item.value) return;
              e.preventDefault();
              e.stopPropagation();
              onMove(moved, item.value);
            }}
          >
            {item.label}
          </Tabs.Tab>
        ))}
      </Tabs.List>
    </Tabs>
  );
}
