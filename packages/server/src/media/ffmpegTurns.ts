// How many processes of ffmpeg there are at once, in all threads of this process.
import { availableParallelism } from 'node:os';
import { Turns, type Turn } from './turns.ts';

/** One more than there are processors: while one waits for the disk or for who reads it, the others have work. */
export const FFMPEG_AT_ONCE = availableParallelism() + 1;
export const ffmpegTurns = new Turns('ffmpeg', FFMPEG_AT_ONCE);

/**
 * An encoder keeps its turn until its file is written; all others end by themselves or make room when somebody waits.
 * So there are always two that are no encoder's, or one where there is but one processor, and what writes a file is
 * never without the decoders it is written from.
 */
const ENCODERS = Math.max(1, FFMPEG_AT_ONCE - 2);
const encoders = new Turns('encoders', ENCODERS);
/** Where files are written of the same frames, one of these two is enough: they share what decodes for them. */
const besideOthers = new Turns('encoders beside others', FFMPEG_AT_ONCE - 1 - ENCODERS);

export const encoderTurn = (): Promise<Turn> => encoders.take();
/** For one more file of the same frames, if there is a turn now: who has one already must not wait for another. */
export const furtherEncoderTurn = (): Turn | undefined => encoders.takeNow() ?? besideOthers.takeNow();
