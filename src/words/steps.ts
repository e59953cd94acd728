import type { StepId } from '#core/plan/steps.ts';

interface StepWords {
  readonly title: string;
  readonly what: string;
  /** Where the step ends, whatever is still to be cut. */
  readonly stop: string;
}

/** Every step in the trade's words. */
export const STEP_WORDS: Readonly<Record<StepId, StepWords>> = {
  'depth-cuts': {
    title: 'Depth cuts',
    what: 'Sink the cutter to its depth in each place, then check every cut before joining them.',
    stop: 'Stop when one cut reads as planned; a second pass in it cuts deeper than it looks.',
  },
  occlusal: {
    title: 'Occlusal reduction',
    what: 'Join the depth cuts, following the cusps and the grooves.',
    stop: 'Stop when the bottoms of the cuts are just gone.',
  },
  'functional-bevel': {
    title: 'Functional cusp bevel',
    what: 'Lay the cutter along the functional cusps’ outer incline and take the corner off.',
    stop: 'Stop when the plane is even from mesial to distal.',
  },
  'check-occlusion': {
    title: 'Check in occlusion',
    what: 'Close the teeth over the gauge in centric and in the excursions.',
    stop: 'Do not touch the sides before the gauge passes everywhere.',
  },
  incisal: {
    title: 'Incisal reduction',
    what: 'Cut across the edge, square to the opposing tooth’s pressure.',
    stop: 'Stop at the depth cuts; the edge keeps its slant.',
  },
  'facial-planes': {
    title: 'Facial reduction in two planes',
    what: 'Gingival half along the axis first, then the incisal half along the face.',
    stop: 'Stop short of the margin; it comes last.',
  },
  contacts: {
    title: 'Break the contacts',
    what: 'With the slim pointed cutter inside the tooth, so that a shell is left beside the neighbour; then take the shell away.',
    stop: 'Stop while the shell stands; the neighbour comes before speed.',
  },
  axial: {
    title: 'Facial and lingual walls',
    what: 'Hold the cutter at one tilt all round, its tip where the margin will be, less what is left for it.',
    stop: 'Stop at the line angles; turn the hand, not the tilt.',
  },
  'lingual-wall': {
    title: 'Lingual wall',
    what: 'A short wall along the axis, at the same tilt as the facial one.',
    stop: 'Stop at its height: the fossa takes it away.',
  },
  'lingual-fossa': {
    title: 'Lingual fossa',
    what: 'Hollow it with the flame, cingulum to edge, in one sweep.',
    stop: 'Stop at the wall; leave its corner.',
  },
  margin: {
    title: 'Margin',
    what: 'Join the sides into one margin, of one width and at one height.',
    stop: 'Stop when the explorer runs round without a step.',
  },
  outline: {
    title: 'Outline and depth in one place',
    what: 'Sink the cutter in the deepest pit to its depth, then widen from there.',
    stop: 'Stop at the first depth that reads as planned, probe in hand.',
  },
  'even-depth': {
    title: 'Even depth, smooth outline',
    what: 'Keep the cutter on the floor and move it along the groove.',
    stop: 'Stop where the floor is level; it is not to follow the surface.',
  },
  'ridge-stop': {
    title: 'Stop before the ridge',
    what: 'Look from above: as much of the ridge as the plan says stands at both ends.',
    stop: 'Stop 1.0 to 1.5 mm before the ridge, check, and only then go on to the box.',
  },
  'box-shell': {
    title: 'Box, with its shell',
    what: 'Down along the outer surface, the shell to the neighbour left standing.',
    stop: 'Stop at the floor; break nothing yet.',
  },
  'box-open': {
    title: 'Open the box',
    what: 'Break the shell by hand, then widen to both sides until the gauge passes.',
    stop: 'Stop as soon as the contact is open by the gauge that is asked for.',
  },
  'hand-finish': {
    title: 'Finish by hand',
    what: 'Plane walls and floor with the hatchet and the trimmers; bevel the axiopulpal corner.',
    stop: 'Stop when the explorer finds no loose enamel.',
  },
  slices: {
    title: 'Slices',
    what: 'One flat cut each side along the path of insertion, ending on the tooth.',
    stop: 'Stop before the facial corner shows from the front.',
  },
  grooves: {
    title: 'Grooves',
    what: 'Along the path of insertion, the cutter’s whole width into sound tooth.',
    stop: 'Stop short of the finish line.',
  },
  pinhole: {
    title: 'Pinhole',
    what: 'With the twist drill along the path, in the middle of its ledge.',
    stop: 'Stop at its depth; do not go in twice.',
  },
  bevels: { title: 'Bevels', what: 'A narrow bevel along the margin with the fine cutter.', stop: 'Stop when it is even.' },
  cover: {
    title: 'Cover the cusps',
    what: 'Lower the cusps that are covered to their depth cuts.',
    stop: 'Stop when the gauge passes in occlusion.',
  },
  fit: {
    title: 'Try the crown',
    what: 'It slides on under light pressure and its edge is where it belongs.',
    stop: 'Stop cutting when it seats; trim the crown, not the tooth.',
  },
  smooth: {
    title: 'Smooth',
    what: 'Round the corners and take the marks out with the fine cutter, hardly touching.',
    stop: 'Stop at two passes: smoothing cuts too.',
  },
  final: {
    title: 'Final check',
    what: 'Everything once more by hand before it is handed in.',
    stop: 'What is found now goes with the work: say it in your own judgement.',
  },
  band: {
    title: 'Band and wedge',
    what: 'Set band and wedge, then look from above and feel along the gingival floor.',
    stop: 'Do not fill before the band lies close.',
  },
  fill: { title: 'Fill', what: 'In small portions, each pressed into the corners.', stop: 'Stop a little over the outline.' },
  carve: {
    title: 'Carve',
    what: 'Instrument on enamel and filling at once; ridge as high as the neighbour’s.',
    stop: 'Stop when the marks of the bite are even.',
  },
  polish: { title: 'Polish', what: 'After 24 hours, from coarse to fine.', stop: 'Stop before it gets warm.' },
};
