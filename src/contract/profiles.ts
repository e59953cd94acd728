import * as v from 'valibot';

const n = v.nullable(v.number());

/** One half plane as the section panel draws it: (r, z) pairs in the tooth frame, flat. */
export const ProfileView = v.object({
  azimuth: v.number(),
  scan: v.array(v.number()),
  master: v.array(v.number()),
  /** The opposing arch in occlusion; absent in files of before. */
  opposing: v.optional(v.array(v.number())),
  finish: v.nullable(v.tuple([v.number(), v.number()])),
  foot: v.nullable(v.tuple([v.number(), v.number()])),
  wall: v.nullable(v.tuple([v.number(), v.number(), v.number(), v.number()])),
  width: n,
  taper: n,
  height: n,
});
export type ProfileView = v.InferOutput<typeof ProfileView>;
export const ProfilesFile = v.object({ format: v.literal('veritor-profiles/1'), profiles: v.array(ProfileView) });
