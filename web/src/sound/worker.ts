import type { Message } from "../synth/protocol";
import { Recorder, type Finished } from "./recorder";
import type { Depth } from "./wav";

/** What the worker is asked. */
export type Task =
  | { do: "begin"; rate: number; apart: boolean; limited: boolean; loop: number }
  | { do: "piece"; messages: Message[]; frames: number }
  | { do: "finish"; depth: Depth };

/** What it answers, one for each task. */
export type Answer =
  | { done: "begin" }
  | { done: "piece"; awake: boolean }
  | ({ done: "finish"; frames: number } & Finished)
  | { done: "failed"; why: string };

let recorder: Recorder | null = null;

async function work(task: Task): Promise<Answer> {
  if (task.do === "begin") {
    recorder = new Recorder(task.rate, task.apart, task.limited, task.loop);
    return { done: "begin" };
  }
  if (!recorder) throw new Error("nothing was begun");
  if (task.do === "piece") {
    recorder.tell(task.messages);
    await recorder.render(task.frames);
    return { done: "piece", awake: recorder.awake };
  }
  return { done: "finish", frames: recorder.length, ...(await recorder.finish(task.depth)) };
}

self.onmessage = ({ data }: MessageEvent<Task>) => {
  work(data).then(
    (answer) => self.postMessage(answer),
    (problem: unknown) => self.postMessage({ done: "failed", why: String(problem) } satisfies Answer),
  );
};
