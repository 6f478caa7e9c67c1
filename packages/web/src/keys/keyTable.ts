// Every command that has a name of its own: what it is called, where it works, and its keys until they are changed.

export const PLACES = ['Anywhere', 'Project', 'Picture', 'Tools', 'Frames', 'Keyframes', 'Layers', 'Line-up'] as const;
type Place = (typeof PLACES)[number];

export interface CommandEntry {
  name: string;
  place: Place;
  /** Keys as `mod+shift+z`: `mod` is Ctrl, on a Mac Command; several are told apart by their place in the list. */
  keys: readonly string[];
  /** Works while the key is held. */
  isHeld?: true;
}
const held = (name: string, place: Place, key: string): CommandEntry => ({ name, place, keys: [key], isHeld: true });
const does = (name: string, place: Place, ...keys: string[]): CommandEntry => ({ name, place, keys });

const COMMANDS = {
  palette: does('Find a command', 'Anywhere', 'mod+k'),
  keysHere: does('Keys of this place', 'Anywhere', 'shift+slash'),
  guide: does('Read about this stage', 'Anywhere', 'shift+h'),
  firstSteps: does('First steps', 'Anywhere'),
  roomDim: does('Dim room', 'Anywhere'),
  roomMid: does('Mid room', 'Anywhere'),
  roomBright: does('Bright room', 'Anywhere'),
  textLarger: does('Larger text', 'Anywhere'),

  undo: does('Undo', 'Project', 'mod+z'),
  redo: does('Redo', 'Project', 'mod+shift+z', 'mod+y'),
  toShots: does('Go to Shots', 'Project'),
  toIsolate: does('Go to Isolate', 'Project'),
  toRecolour: does('Go to Recolour', 'Project'),
  toLineup: does('Go to Line-up', 'Project'),
  toDeliver: does('Go to Deliver', 'Project'),
  toProjects: does('Go to all projects', 'Project'),
  piece1: does('Take piece 1', 'Project', 'shift+1'),
  piece2: does('Take piece 2', 'Project', 'shift+2'),
  piece3: does('Take piece 3', 'Project', 'shift+3'),
  piece4: does('Take piece 4', 'Project', 'shift+4'),
  piece5: does('Take piece 5', 'Project', 'shift+5'),
  piece6: does('Take piece 6', 'Project', 'shift+6'),
  piece7: does('Take piece 7', 'Project', 'shift+7'),
  piece8: does('Take piece 8', 'Project', 'shift+8'),
  piece9: does('Take piece 9', 'Project', 'shift+9'),
  newPiece: does('New piece', 'Project', 'n'),
  renamePiece: does('Rename the piece', 'Project'),
  removePiece: does('Remove the piece', 'Project'),
  nextColourway: does('Next colourway', 'Project', 'k'),
  newColourway: does('New colourway', 'Project'),
  renameColourway: does('Rename the colourway', 'Project'),
  duplicateColourway: does('Duplicate the colourway', 'Project'),
  removeColourway: does('Remove the colourway', 'Project'),
  previousShot: does('Previous shot', 'Project', 'pageup'),
  nextShot: does('Next shot', 'Project', 'pagedown'),

  viewResult: does('View: result', 'Picture', '1'),
  viewSource: does('View: source', 'Picture', '2'),
  viewMatte: does('View: matte', 'Picture', '3'),
  viewTint: does('View: tint', 'Picture', '4'),
  viewCutOut: does('View: cut-out', 'Picture', '5'),
  viewDifference: does('View: difference', 'Picture', '6'),
  beside: does('Matte with those of the frames beside', 'Picture', 'shift+o'),
  filmstrip: does('Filmstrip: the piece on every frame', 'Picture', 'shift+s'),
  sourceHeld: held('Source while held', 'Picture', 'q'),
  handlesHidden: held('No handles while held', 'Picture', 'g'),
  pieceOff: does('This piece’s recolour off in the view', 'Picture', 't'),
  allOff: does('All recolour off in the view', 'Picture', 'shift+t'),
  look: does('Look on or off', 'Picture', 'u'),
  wipe: does('Wipe', 'Picture', 'w'),
  scopes: does('Scopes', 'Picture', 'y'),
  fit: does('Fit the picture', 'Picture', 'f'),
  fullSize: does('One picture pixel on one of the screen', 'Picture', 'shift+f'),
  finish: does('Close the path being drawn', 'Picture', 'enter'),
  leave: does('Leave what is being drawn', 'Picture', 'escape'),
  removeChosen: does('Delete what is chosen', 'Picture', 'delete', 'backspace'),

  toolSelect: does('Adjust shape', 'Tools', 'v'),
  toolPickAdd: does('Pick a colour to add', 'Tools', 'a'),
  toolPickRemove: does('Pick a colour to remove', 'Tools', 'd'),
  toolRectangle: does('Rectangle', 'Tools', 'r'),
  toolEllipse: does('Ellipse', 'Tools', 'e'),
  toolSpline: does('Spline', 'Tools', 's'),
  toolGradient: does('Gradient', 'Tools', 'b'),
  toolScribbleIn: does('Scribble over what is in', 'Tools', 'c'),
  toolScribbleOut: does('Scribble over what is out', 'Tools', 'x'),
  toolScribbleUnsure: does('Scribble over what is partly in', 'Tools', 'shift+x'),
  toolScribbleAround: does('Draw round what is to be selected', 'Tools', 'shift+a'),
  toolScribbleGrow: does('Click to select, wheel for more or less', 'Tools', 'shift+g'),
  toolBrushIn: does('Paint in', 'Tools', 'p'),
  toolBrushOut: does('Paint out', 'Tools', 'm'),
  toolBrushSmooth: does('Paint smooth', 'Tools', 'shift+p'),
  brushLarger: does('Larger brush', 'Tools', 'equal'),
  brushSmaller: does('Smaller brush', 'Tools', 'minus'),
  toolHand: does('Move the view', 'Tools', 'h'),

  play: does('Play or pause', 'Frames', 'space'),
  frameBack: does('Previous frame', 'Frames', 'left'),
  frameOn: does('Next frame', 'Frames', 'right'),
  framesBack: does('Ten frames back', 'Frames', 'shift+left'),
  framesOn: does('Ten frames on', 'Frames', 'shift+right'),
  firstFrame: does('First frame', 'Frames', 'home'),
  lastFrame: does('Last frame', 'Frames', 'end'),
  loopFrom: does('Loop begins here', 'Frames', 'i'),
  loopTo: does('Loop ends here', 'Frames', 'o'),
  loopOff: does('Play the whole shot', 'Frames', 'l'),

  carry: does('Carry the scribble through the shot', 'Layers', 'shift+c'),
  previousDoubtful: does('Doubtful frame before', 'Frames', 'shift+comma'),
  nextDoubtful: does('Doubtful frame after', 'Frames', 'shift+period'),
  previousKeyframe: does('Previous keyframe', 'Keyframes', 'comma'),
  nextKeyframe: does('Next keyframe', 'Keyframes', 'period'),
  copyKeyframes: does('Copy the chosen keyframes', 'Keyframes', 'mod+shift+c'),
  pasteKeyframes: does('Paste keyframes on this frame', 'Keyframes', 'mod+shift+v'),
  autoKey: does('Auto-key', 'Keyframes', 'shift+k'),

  copyLayer: does('Copy the layer', 'Layers', 'mod+c'),
  pasteLayer: does('Paste the layer', 'Layers', 'mod+v'),
  duplicateLayer: does('Duplicate the layer', 'Layers'),
  soloLayer: does('Show the layer alone', 'Layers', 'j'),

  solveAll: does('Solve all', 'Line-up'),
} as const satisfies Record<string, CommandEntry>;

export type CommandId = keyof typeof COMMANDS;
export const COMMAND_IDS = Object.keys(COMMANDS) as CommandId[];
export const entryOf = (id: CommandId): CommandEntry => COMMANDS[id];

/** Keys that were changed from those of the table. */
export type ChangedKeys = Partial<Record<CommandId, readonly string[]>>;
export const keysOf = (id: CommandId, changed: ChangedKeys): readonly string[] => changed[id] ?? COMMANDS[id].keys;

/** The command that has a key already; all commands may be there at once, so a key is never shared. */
export const holderOf = (key: string, changed: ChangedKeys, but?: CommandId): CommandId | undefined =>
  COMMAND_IDS.find((id) => id !== but && keysOf(id, changed).includes(key));

/** What browsers take for themselves, whatever a page wants; from the defaults that Chromium and Firefox share. */
const OF_THE_BROWSER = new Set(
  ['t', 'n', 'w', 'shift+t', 'shift+n', 'shift+w', 'l', 'r', 'p', 'f', 'd', 'h', 'j', 'o', 's', 'u', 'tab']
    .map((key) => `mod+${key}`)
    .concat(Array.from({ length: 9 }, (_, i) => [`mod+${i + 1}`, `alt+${i + 1}`]).flat())
    .concat(['tab', 'shift+tab', 'f1', 'f3', 'f5', 'f6', 'f7', 'f11', 'f12', 'alt+left', 'alt+right', 'alt+d']),
);
export const isOfTheBrowser = (key: string): boolean => OF_THE_BROWSER.has(key);

/** Why a command cannot have a key; undefined: it can. */
export function whyNotKey(id: CommandId, key: string, changed: ChangedKeys): string | undefined {
  if (isOfTheBrowser(key)) return 'The browser takes this key for itself.';
  const holder = holderOf(key, changed, id);
  return holder && `It is the key of “${COMMANDS[holder].name}”.`;
}

/** Changed keys as they were kept; what is not understood, or clashes by now, is left out. */
export function changedKeysFrom(text: string | null): ChangedKeys {
  let kept: unknown;
  try {
    kept = JSON.parse(text ?? '{}');
  } catch {
    return {};
  }
  const changed: ChangedKeys = {};
  for (const id of COMMAND_IDS) {
    const keys = (kept as Record<string, unknown> | null)?.[id];
    if (Array.isArray(keys) && keys.every((k) => typeof k === 'string')) changed[id] = keys;
  }
  // judged together: two commands may have changed places
  for (const id of COMMAND_IDS)
    if (changed[id]?.some((key) => whyNotKey(id, key, changed) !== undefined)) delete changed[id];
  return changed;
}
