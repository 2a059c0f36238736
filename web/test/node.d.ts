/** What tests that measure ask of Node. */
declare const process: { env: Record<string, string | undefined>; cpuUsage(): { user: number } };
