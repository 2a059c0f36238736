// A worker that tells the time: timers of a page that is hidden go once a second, those of a worker do not.

let timer = 0;

/** Takes how often to tell, in ms; 0: no longer. */
onmessage = ({ data }: MessageEvent<number>) => {
  clearInterval(timer);
  if (data > 0) timer = setInterval(() => postMessage(0), data) as unknown as number;
};
