import pino, { type DestinationStream, type Level, type Logger } from 'pino';
import pretty from 'pino-pretty';
import { createStream } from 'rotating-file-stream';
import { makeFolder } from './folders.ts';

export interface LogOptions {
  /** Folder of the log files, made when missing. */
  folder: string;
  level: Level;
  /** On the terminal too. */
  terminal: boolean;
}

/** Ten files of ten megabytes: the last weeks of a busy installation, and never a full disk. */
const FILE_SIZE = '10M';
const FILES = 10;

/** A log whose lines `take` writes down: in a thread, its process's, for two would turn over each other's files. */
export const logThrough = (take: (line: string) => void, level: Level): Logger =>
  pino({ level, base: { pid: process.pid } }, { write: take });

interface ProcessLog {
  log: Logger;
  /** Writes down what a thread of this process has logged. */
  take: (line: string) => void;
}
/**
 * The log of a process: lines of JSON in `<name>.log`, which becomes `<name>.log.1` and so on as it grows; in words on
 * the terminal when asked.
 */
export function openLog(name: 'server' | 'worker', { folder, level, terminal }: LogOptions): ProcessLog {
  makeFolder(folder, 0o700);
  const fileName = (index: number | Date | null) => `${name}.log${index === null ? '' : `.${String(index)}`}`;
  const file = createStream(fileName, { path: folder, size: FILE_SIZE, rotate: FILES });
  // a log that cannot be written (a full disk) must not end the process
  file.on('error', (error) => process.stderr.write(`The log cannot be written: ${error.message}\n`));
  const streams: DestinationStream[] = [file];
  if (terminal) streams.push(pretty({ colorize: process.stdout.isTTY }));
  const take = (line: string) => {
    for (const stream of streams) stream.write(line);
  };
  return { log: logThrough(take, level), take };
}
