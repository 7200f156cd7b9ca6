/** The core at a prompt. */
import { runCommand } from './command.ts';

process.exitCode = await runCommand(process.argv.slice(2));
