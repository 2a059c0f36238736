// A worker that tells when to look what to schedule: timers of a page that is hidden go once a second, those of a worker do not.

/** How often it tells, in ms. */
const EVERY = 50;

setInterval(() => postMessage(0), EVERY);
