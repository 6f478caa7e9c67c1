import { z } from 'zod';
import { Balance, Encoding } from './entities.ts';
import { ColourwayId, PieceId, ProjectId, ShotId, StillId } from './ids.ts';
import { ShotRenderSighting } from './rendersOfShot.ts';
import { FrameNumber } from './animation.ts';
import { Name } from './text.ts';

/**
 * A frame kept with all that made it: the mattes and recolours of the pieces as they stood there, tracks and keyframes
 * resolved. Its picture is computed from these again, the same for as long as the footage is.
 */
export const Still = z.object({
  id: StillId,
  projectId: ProjectId,
  name: Name,
  shotId: ShotId,
  frame: FrameNumber,
  colourwayId: ColourwayId.nullable(),
  encoding: Encoding,
  balance: Balance.nullable(),
  /** In the order of recolouring, with the piece that each is of. */
  renders: z.array(ShotRenderSighting.extend({ pieceId: PieceId })).max(100),
});
export type Still = z.infer<typeof Still>;
