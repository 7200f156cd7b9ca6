/** A worker process with words: the server works, and what it tells people by mail is said here. */
import { startWorker } from '../server/worker.ts';
import { noticeLetter } from './noticeLetter.ts';

await startWorker(noticeLetter);
