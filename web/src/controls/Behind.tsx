import { useDeferredValue, type ReactNode } from "react";

/** Shows something of a value that may come a frame after what is drawn at once. */
export function Behind<T>({ value, children }: { value: T; children: (late: T) => ReactNode }) {
  const late = useDeferredValue(value);
  return (
    <>
      {late !== value && <span data-later hidden />}
      {children(late)}
    </>
  );
}
