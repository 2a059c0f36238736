import { ApiError } from "../api/client";

/** A change that the server could not keep, or did not answer. It is tried again by
 * itself; whoever waits can hurry it or give it up. */
export interface Unsaved {
  problem: string;
  again: () => void;
  drop: () => void;
}

/** Seconds before the next try, after each one that failed. */
const pauses = [1, 2, 5, 10];

/** Whether trying again may help: no answer came, or the server itself failed. */
const mayPass = (problem: unknown): problem is ApiError =>
  problem instanceof ApiError &&
  !problem.problem.final &&
  (problem.status === 0 || problem.status === 408 || problem.status >= 500);

/** A name for one request, so that the server knows it when it comes again. */
export const newKey = (): string =>
  Array.from(crypto.getRandomValues(new Uint8Array(12)), (byte) => byte.toString(16).padStart(2, "0")).join("");

/** Sends a change under a key of its own until the server has taken or refused it.
 * tell hears of each failure, and null once it is over. */
export async function persist<T>(
  request: (key: string) => Promise<T>,
  tell: (unsaved: Unsaved | null) => void,
): Promise<T> {
  const key = newKey();
  for (let tries = 0; ; tries++) {
    try {
      const answer = await request(key);
      if (tries > 0) tell(null);
      return answer;
    } catch (problem) {
      const seconds = pauses[Math.min(tries, pauses.length - 1)]!;
      if (!mayPass(problem) || (await pause(seconds, problem.message, tell)) === "drop") {
        tell(null);
        throw problem;
      }
    }
  }
}

function pause(seconds: number, problem: string, tell: (unsaved: Unsaved) => void): Promise<"again" | "drop"> {
  return new Promise((resolve) => {
    const timer = setTimeout(() => resolve("again"), seconds * 1000);
    const end = (how: "again" | "drop") => () => {
      clearTimeout(timer);
      resolve(how);
    };
    tell({ problem, again: end("again"), drop: end("drop") });
  });
}
