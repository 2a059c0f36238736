/** How much is under way after which the page looks otherwise: questions, parts that are loaded, waits. */
let count = 0;

export const underway = (): number => count;

/** Something is under way until what is returned is called. */
export function begin(): () => void {
  count++;
  let open = true;
  return () => {
    if (open) count--;
    open = false;
  };
}

/** Something is under way for as long as a promise is. */
export function during<T>(work: Promise<T>): Promise<T> {
  return work.finally(begin());
}

/** Does something after so many ms, unless what is returned is called before. */
export function after(ms: number, act: () => void): () => void {
  const end = begin();
  const timer = setTimeout(() => {
    end();
    act();
  }, ms);
  return () => {
    clearTimeout(timer);
    end();
  };
}
