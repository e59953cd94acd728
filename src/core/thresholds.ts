/** Every tolerance of the core in one place, with its unit and the reason for its value. */
export const THRESHOLDS = {
  /** mm. A dental quadrant or arch is longer than this and shorter than the next; outside, the unit is wrong. */
  scanLongestMin_mm: 6,
  scanLongestMax_mm: 160,
  /** Triangles below which nothing can be measured to a tenth of a millimetre on a tooth. */
  scanTrianglesMin: 500,
  /** mm²: a patch of a wall, floor or zone smaller than this gives no figure; about a third of a probe's tip. */
  patchLeast_mm2: 0.2,
  /** Points that a plane or a curved wall and its residual want, on the coarsest scan. */
  patchPointsLeast: 6,
  /** Corners per triangle after welding: a closed surface has ½, one triangle alone 3; more than this hangs together nowhere. */
  scanVerticesPerTriangleMost: 1.5,
  /** mm. above this the fit is refused. */
  alignRmsMax_mm: 0.1,
  /** mm. A scan point nearer than this to the master counts as uncut when candidate poses are compared. */
  alignInlier_mm: 0.15,
  /** mm². Least stable area for a pose that can be trusted (about one molar's uncut crown). */
  alignStableAreaMin_mm2: 30,
  /** mm. Largest standard error of a point at the target's centre. */
  alignPointErrorMax_mm: 0.02,
  /** radians. Largest standard error of a turn: 0.004 moves a finish line 5 mm off the axis by 0.02 mm. */
  alignTurnErrorMax_rad: 0.004,
  /** mm. No bench scanner repeats a point better than this. */
  scannerNoiseLeast_mm: 0.01,
  /** Least share of the directions round the tooth that contain stable surface. */
  alignSpreadMin: 0.25,
  /** mm. τ = max(this, 3 × RMS). */
  preparedDepthMin_mm: 0.05,
  /** degrees. Wall = within this of the draw direction; floor = within this of perpendicular to it. */
  wallWithin_deg: 30,
  /** degrees. A change of direction along a wall that ends it. */
  wallBend_deg: 8,
  /** mm. A convex edge with a smaller radius is sharp: milling tools and cracks mind it. */
  sharpRadius_mm: 0.2,
  /** mm. Depth beyond which the neighbours' and the gingiva's loss counts as damage. */
  damageDepth_mm: 0.05,
  /** Shares of a zone that must have been scanned: below the first the reading warns, below the second it is refused. */
  coverageFull: 0.8,
  coverageLeast: 0.5,
} as const;
