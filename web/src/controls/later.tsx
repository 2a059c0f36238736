import { lazy, Suspense, type ComponentType } from "react";
import { during } from "../underway";

/** A part of the page that is loaded when it is first shown, and keeps its room, in
 * pixels, until then. */
export function later<P extends object>(load: () => Promise<ComponentType<P>>, height: number): ComponentType<P> {
  const Part = lazy(() => during(load()).then((part) => ({ default: part })));
  return function Later(props: P) {
    return (
      <Suspense fallback={<div data-later style={{ minHeight: height }} />}>
        <Part {...props} />
      </Suspense>
    );
  };
}
