/**
 * Every problem Makrel can state, in one table: code -> text. A text says what happened and what to do;
 * `{name}` places are filled from the problem's data. The list of them in `docs/reference.md` is generated from this table.
 */
export const problemTexts = {
  'expression-empty': 'Type a value here.',
  'expression-too-long':
    'This expression is longer than {limit} characters; give parts of it names in the measures table.',
  'expression-too-deep':
    'This expression is nested deeper than {limit} levels; give parts of it names in the measures table.',
  'expression-syntax': 'This cannot be read as an expression: {detail}.',
  'expression-not-arithmetic': '“{word}” is not arithmetic; use numbers, measures, + − × ÷ ^ and functions only.',
  'unknown-name': 'There is no measure called “{name}”.{suggestion}',
  'unknown-function': 'There is no function called “{name}”. Known: {known}.',
  'unknown-unit': '“{name}” is not a unit; use mm, cm, m, in, ft, deg or rad.',
  'wrong-argument-count': '“{name}” takes {expected}, not {given}.',
  cycle: 'This depends on itself: {path}.',
  'depends-on-broken': '“{name}” has a problem of its own; fix it first.',
  'division-by-zero': 'This divides by zero.',
  'not-finite': 'This does not come to a finite number.',
  'mixed-kinds': '“{operator}” cannot combine {left} with {right}.',
  'wrong-kind': 'This must be {expected}, and it is {given}.',
  'not-whole': 'A whole number is needed here, and this is {value}.',
  'too-small': '{label} must be {bound} or more; this is {value}.',
  'not-above': '{label} must be more than {bound}; this is {value}.',
  'too-large': '{label} must be {bound} or less; this is {value}.',
  'word-behind':
    '“{name}” stands behind a value: an operator is missing, or it names a fit where nothing goes in. A fit can stand behind the size of a hole.',
  'word-in-arithmetic': '“{word}” is text, not a number; use pick(…) to give each choice its value.',
  'words-unordered': '“{word}” is text: compare it with = or ≠.',
  'pick-unlike': 'There are {given} choices and {values} values; give one value for each.',
  'pick-outside': 'This picks value {number} of {count}.',
  'readout-unknown': '“{name}” cannot be read yet: what it is taken from has a problem, or depends on it.',
  'readout-failed': 'This cannot be read: {detail}.',
  'readout-unsettled':
    'This reading changes the solid it is read from, so it never settles; use it where it changes nothing it measures.',
  'name-taken': 'Another measure or read-out is called “{name}” already.',
  'name-unfit': '“{name}” cannot be a name: {detail}.',
  'choice-unknown': '“{value}” is not one of {known}.',
  'field-unknown': 'The field “{field}” is not one of this {kind}; it is kept and has no effect. Known: {known}.',
  'condition-unclear': 'Compare two values at a time; join several comparisons with “and” or “or”.',
  'text-too-long': '{label} has {count} characters; at most {limit} are made.',
  'corner-unlike':
    'Corner {number} has {count} distances; give three, separated by commas, and end each corner with a semicolon.',
  'corners-count': '{label}: {count} given, {least} to {most} needed.',
  'sections-count': '{label}: {count} given, {least} to {most} needed.',
  'asset-choose': 'Choose a mesh file.',
  'asset-broken': 'The mesh of this step cannot be read: {detail}.',
  'asset-missing': 'The mesh of this step is missing: the part came without it.',
  'outline-choose': 'Choose the outline that this is made from, or draw one.',
  'outline-missing': 'The outline that this is made from is gone; choose another one.',
  'outline-broken': 'The outline “{name}” contradicts itself; fix it first.',
  'regions-none': 'None of the regions chosen here exists in “{name}” any more; choose others.',
  'region-gone': '{count} of the regions chosen in “{name}” can no longer be found; the rest is made.',
  'outline-conflict': 'These cannot all hold: {which}. Change or remove one of them.',
  'outline-unfit': 'This constraint cannot apply to what it names; it is kept without effect.',
  'outline-taken-gone':
    'What {which} was picked up from is gone; it stays where it was. Untick “stays with the part” to move it.',
  'outline-too-complex':
    'This drawing has too many crossings for its regions to be found; split it into several outlines.',
  'drawn-closes-up':
    'Above {height} mm its sides run into each other: make the taper or the edges smaller, or the height lower.',
  'sweep-overlaps':
    'The section overlaps itself where the line bends at {at}: make the bend wider or the section smaller.',
  'loft-overlaps':
    'The sides cross each other at {height} mm; turn it less on its way, or draw the sections more alike.',
  'rib-meets-nothing': 'This meets nothing to stand on beyond its line; turn it towards the rest of the piece.',
  'drawing-unreadable': 'This drawing cannot be read: {detail}.',
  'drawing-empty': 'There are no lines or curves in this file to import.',
  'drawing-too-large':
    'This drawing is {size} large, more than any part can be; export it in millimetres, or smaller, where it was drawn.',
  'drawing-too-much': 'This drawing has more than {what}; split it up or simplify it first.',
  'constraint-unknown':
    'This constraint is of kind “{kind}”, which this version does not know; it is kept without effect.',
  'derived-unknown': 'This is of kind “{kind}”, which this version does not know; it is kept and left out.',
  'derived-failed': 'This cannot be drawn: {detail}.',
  'repeat-unknown':
    'This repeat is of kind “{kind}”, which this version does not know; it is kept and makes no copies.',
  'shape-unknown': 'This step has a shape of kind “{kind}”, which this version does not know; it is kept and left out.',
  'kind-later': 'This was made with a later version of Makrel, whose {kind} has other values; it is kept and left out.',
  'operation-unknown':
    'What this step does is of kind “{kind}”, which this version does not know; it is kept and left out.',
  'joint-unknown': 'This joint is of kind “{kind}”, which this version does not know; it is kept and left out.',
  'shape-impossible': '{detail}',
  'reference-missing': 'The step it stood on is gone; it keeps its last place until another one is chosen.',
  'reference-later': 'It stands on a step that comes later in the sheet; choose an earlier one.',
  'reference-unbuilt': 'The face it stands on is known once the solid is built.',
  'face-missing': 'Its face “{face}” does not exist on {step}; choose another one.',
  'until-missing': 'Choose the face or datum that this cut goes up to.',
  'until-beside': 'This cut runs past that face without meeting it; choose another one.',
  'until-behind':
    'That face lies behind the mouth of this cut, or what is left standing is thicker; choose another one.',
  'reference-broken': 'The step it stands on cannot be built; fix that first.',
  'edges-choose': '{label}: no edge is chosen yet.',
  'edges-unread': '“{text}” (choice {number}) isn’t an edge selection.',
  'edges-none': 'Choice {number} of edges finds none now.',
  'edges-smooth': 'Choice {number} of edges is smooth already: there is no edge to work on.',
  'round-no-room':
    'This has no room along {count} of the edges: it would run past the face beside them or into its neighbour. Up to {largest} mm fits there; all others are done.',
  'edges-part':
    'This leaves {count} bodies that are no longer connected: they were joined by less than this takes off. Make the size smaller, or let them overlap more.',
  'hollow-none': 'A wall of {thick} mm fills all of it: nothing is left to hollow out.',
  'hollow-folds':
    'Rounds of {count} small flats are tighter than this wall is thick and fold up under it, which would take minutes to work out. Hollow first and round the edges after it, or choose another wall.',
  'hollow-torn':
    'With a wall of {thick} mm this comes out torn: somewhere walls only just touch each other. Choose a slightly different wall, or hollow at an earlier step.',
  'wall-thin':
    'In places the wall is only {least} mm thick where it should be {thick} mm, mostly where rounds meet in an inner corner; look at it in a section.',
  'shift-too-far': 'Shifted that far, a face would pass the one it ends at; there is room for {most} mm.',
  'plane-choose': '{label}: choose a flat face, a datum or a direction of the bed.',
  'plane-round': 'That face is round: choose a flat one, or a datum.',
  'split-misses': 'This misses what stands here: nothing is split.',
  'split-crosses':
    'Extended straight from its ends, this line crosses itself: draw it from side to side, or close it. Nothing is split.',
  'pegs-no-room':
    'There is no room for pegs of that size where this is split, with 1 mm left round each; up to {most} mm fits.',
  'pegs-none': 'There is no room for pegs where this is split, with 1 mm left round each.',
  'pegs-fewer': 'Only {found} of {count} find room where this is split.',
  'keys-too-deep': 'They’d break through at that depth, or leave less than 1 mm there: up to {most} mm.',
  'keys-no-depth': 'Less than 1 mm is left behind the split: nothing joins the halves there.',
  'dovetails-no-room':
    'There is no room for that many dovetails of that width side by side; up to {most} mm wide fits.',
  'dovetails-none': 'There is no room for that many dovetails of that depth side by side.',
  'face-not-here': '{where} isn’t a face of what stands here now.',
  'cut-removes-nothing': 'This cut removes nothing: it meets no material.',
  'cut-parts': 'This cuts its piece into separate solids; let it leave some, or make pieces of them.',
  'add-apart': 'This does not touch the rest of its piece; move it there, or make a piece of it.',
  'round-wanted': 'This goes on a round face: stand it on the side of a bar, or in a bore.',
  'flat-on-round': 'This is flat, and the face it stands on is round; wrap it round that, or choose a flat face.',
  'touches-along-line': 'This touches the round it stands on along a line only; sink it by {sink} to join them.',
  'cut-wider-than-body': 'This hole is {size} wide and the body it enters is {body}; it would split or remove it.',
  'keep-leaves-nothing': 'This keep leaves nothing of the piece.',
  'starts-with-nothing': 'There is no material yet to work on; add a solid first.',
  'copies-too-many': 'This makes {count} copies; at most {limit} are built.',
  'copies-none': 'All copies of this step are left out.',
  'bundle-empty': 'This bundle adds nothing: it must begin with a step that adds.',
  'same-missing': 'The step that this one copies must come earlier in the sheet and be built.',
  'too-many-triangles': 'This would need {count} flats round; choose a coarser fineness.',
  'item-unknown': '{label}: “{value}” isn’t in the hardware tables. Nearest: {known}.',
  'item-unlike': '{label}: {item} doesn’t go here; choose another one.',
  'step-choose': '{label}: choose one.',
  'step-missing': '{label}: what was chosen is not there, or has a problem of its own; choose another one.',
  'step-unlike': '{label}: that kind of step can’t go here; choose another one.',
  'joint-told': '{detail}',
  'joint-pieces': 'A joint ties two different pieces of this part.',
  'step-failed':
    'This could not be worked out ({detail}), and is left out; change the value that was edited last, or undo it.',
  'faces-failed':
    'Its faces and edges could not be named ({detail}); it is built, but nothing can stand on it or use its edges.',
  'item-failed':
    'Where the item that it is for lies could not be worked out ({detail}); it is not on the list of what to buy.',
  'kernel-failed': 'The solid could not be computed ({detail}); change the last value that was edited.',
  'file-not-json': 'This is not a part file: it cannot be read as JSON ({detail}).',
  'file-not-part': 'This is not a Makrel part file.',
  'file-not-thing': 'This is not a {word} file.',
  'file-newer':
    'This file was made by a newer version of Makrel (format {version}, this one reads up to {known}). It was left untouched.',
  'file-invalid': 'The part file is damaged at {place}: {detail}.',
  'cannot-keep': 'That cannot be saved, and was not done. {name}{detail}.',
  'over-limit': 'That would be {what}; at most {limit} can be kept. It was not done: {way}.',
  'file-too-large': 'This file is larger than {limit}.',
  'mesh-unreadable': 'This {format} file cannot be read: {detail}.',
  'mesh-kind': 'This is not a mesh file that can be read here: {known}.',
  'mesh-open': '“{name}” is not closed: {count} edges have one side only, the first near {place} in the file.',
  'mesh-flipped':
    'The triangles of “{name}” do not all face the same way: {count} edges, the first near {place} in the file.',
  'mesh-crosses':
    'The surface of “{name}” runs through itself at {count} triangles, first near {place} in the file: inside and outside can’t be told apart there.',
  'mesh-overlaps': '{count} bodies of “{name}” overlap.',
  'mesh-large': '“{name}” has {count} triangles; at most {most} are kept in a part.',
  'mesh-empty': 'This {format} file holds no triangles.',
  'export-differs': 'The written {format} file differs from the solid: {detail}. It was not handed off.',
  'scale-limits': 'A file can be {least} to {most} % of the drawn size.',
  'export-nothing': 'There is nothing to hand off: {detail}.',
} as const

export type ProblemCode = keyof typeof problemTexts
