import type { ChildProcess } from 'node:child_process';

type Urls = {
  BM_APP_URL: string;
  BM_AUTH_URL: string;
  BM_JOBS_URL: string;
  BM_LOADER_URL: string;
  BM_FILES_DIR: string;
  BM_SECRET: string;
};
type Helper = { child: ChildProcess; stop: () => Promise<void> };
export const root: string;
export const CHROMIUM: { executablePath: string; args: string[] };
export function say(text: string): void;
export function freePort(): Promise<number>;
export function needBuild(): void;
export function startServer(
  env: Record<string, string>,
  port: number,
  options?: { dev?: boolean; quiet?: boolean },
): Promise<{ child: ChildProcess; stop: () => Promise<void>; log: () => string }>;
export function startHelper(file: string, env: Record<string, string>, options?: { quiet?: boolean }): Helper;
export function startSimulator(options?: {
  quiet?: boolean;
  today?: string;
}): Promise<Helper & { url: string; smtp: string; mailbox: string }>;
export function throwawayCluster(): Promise<{
  ownerUrl: string;
  urls: Urls;
  stop: () => Promise<void>;
  restart: () => Promise<void>;
  pid: number;
}>;
export function startScreening(
  env: { BM_FILES_DIR: string; BM_SECRET: string },
  options?: { quiet?: boolean },
): Promise<{ url: string; pid: () => number | undefined; stop: () => Promise<void> }>;
