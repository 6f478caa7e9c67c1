import { z } from 'zod';

/** Ids are UUIDs that the client may choose, so that a new thing can be edited before the server has answered. */
export const ProjectId = z.uuid().brand<'ProjectId'>();
export type ProjectId = z.infer<typeof ProjectId>;
export const MediaId = z.uuid().brand<'MediaId'>();
export type MediaId = z.infer<typeof MediaId>;
export const ShotId = z.uuid().brand<'ShotId'>();
export type ShotId = z.infer<typeof ShotId>;
export const PieceId = z.uuid().brand<'PieceId'>();
export type PieceId = z.infer<typeof PieceId>;
export const ColourwayId = z.uuid().brand<'ColourwayId'>();
export type ColourwayId = z.infer<typeof ColourwayId>;
export const RequirementId = z.uuid().brand<'RequirementId'>();
export type RequirementId = z.infer<typeof RequirementId>;
export const RecipeId = z.uuid().brand<'RecipeId'>();
export type RecipeId = z.infer<typeof RecipeId>;
export const SightingId = z.uuid().brand<'SightingId'>();
export type SightingId = z.infer<typeof SightingId>;
export const LayerId = z.uuid().brand<'LayerId'>();
export type LayerId = z.infer<typeof LayerId>;
export const JobId = z.uuid().brand<'JobId'>();
export type JobId = z.infer<typeof JobId>;
export const DeliveryId = z.uuid().brand<'DeliveryId'>();
export type DeliveryId = z.infer<typeof DeliveryId>;
export const ChangeId = z.uuid().brand<'ChangeId'>();
export type ChangeId = z.infer<typeof ChangeId>;
