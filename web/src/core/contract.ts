/** What the page and the core say to each other. Written by `make contract` from the types of Go: change those. */

/** A value of a property; null: none was set. */
export type Value = number | string | number[] | null

/** AboutSlip is the answer; empty where the slip gives nothing. */
export interface AboutSlip {
  formula: string
  /** the formula, read out */
  words: string
  /** of the function or operator */
  help: string
  curve: number[]
}

/** Asked is what is exported of a project, and how. */
export interface Asked {
  composition: Id
  /** a key of Formats */
  format: string
  /** Width and Height are the size in pixels; 0 follows the other, or the composition. */
  width: number
  height: number
  /** From and To are the first and the last frame. */
  from: number
  to: number
  /** Rate is how many pictures a second there are; 0 is as many as the composition has frames. */
  rate: number
  /** Clear leaves out the background. */
  clear: boolean
  /** Loop is how often it plays; 0 is for ever. */
  loop: number
  /** nil for none */
  blur?: Blur
  /** Tolerance is how far shapes may be off, in pixels of the composition; 0 is DefaultTolerance. */
  tolerance?: number
  /** Part is what of its pictures is made; nil for all of them. */
  part?: Part
  /** Only are the items that a table is of; none: all of them. */
  only?: Id[]
}

/** AssetID names a picture or a sound by its content: the SHA-256 of its bytes in 64 hexadecimal digits. */
export type AssetID = string

/** AtStop names a stop of a control of poses. */
export interface AtStop {
  item: Id
  control: Id
  stop: Id
}

/** Attachment is how an item hangs on its parent. */
export interface Attachment {
  /** Stayed is where the parent stood, in the composition, when the item was attached: the rows of num.Affine. At a weight of 0 the item stays behind with it. */
  stayed?: number[]
  /** Turns is the parent's rotation then, in degrees, with whole turns counted. */
  turns?: number
  /** What is not taken over from the parent. */
  noPosition?: boolean
  noRotation?: boolean
  noScale?: boolean
}

/** Baked is what a bake put away. */
export interface Baked {
  /** switched off */
  links?: Id[]
  /** links on rows that the item opted out of */
  rows?: Id[]
  /** that stood there before */
  pins?: Pin[]
}

/** Before is a composition as it was when it was kept, to be looked at and gone back to. What is in it has the ids that it had. */
export interface Before {
  id: Id
  name: string
  value: SceneComposition
}

/** Beyond is what a map does before its first stop and behind its last. */
export type Beyond = '' | 'go on' | 'repeat' | 'mirror'

/** Blur smears what moves: a picture is the average of so many, spread over the time that a shutter stands open for it, of which 360 degrees are a whole frame. */
export interface Blur {
  samples: number
  angle: number
}

/** CatalogueView is everything about kinds that never changes. */
export interface Catalogue {
  kinds: Kind[]
  links: LinkKindInfo[]
  /** Controls are the kinds of controls. */
  controls: ControlKind[]
  /** Formats are what a composition is exported as. */
  formats: Format[]
  /** Recipes are rigs in one step. */
  recipes: Recipe[]
  /** Functions and Names are the words of the formula language. */
  functions: FormulaFunction[]
  names: string[]
  /** Operators and Words are what slips are made of besides functions. */
  operators: Operator[]
  words: Word[]
  copies: CopiesLimits
  /** that a sound can be, in seconds */
  longest: number
  /** LargestTable is how large the file of a table can be, in bytes. */
  largestTable: number
  /** LargestModel is how large a file that meshes are read from can be, with what belongs to it, in bytes. */
  largestModel: number
  /** Easings are those that spans of pins are given by name. */
  easings: Named[]
}

/** Change is a list of operations on its way to the server or from it. */
export interface Change {
  /** made by the window that made the change */
  id: string
  /** the revision it was made on */
  base: number
  /** the revision it made; 0 until acknowledged */
  revision?: number
  ops: Operation[] | null
}

/** Changed is the answer of every call that may have changed the document. */
export interface Changed {
  view: View
  /** items and controls */
  made?: Id[]
  note?: string
  /** what the note is about, one thing each */
  details?: string[]
  /** that the gesture leaves in the hand */
  pins?: PinAt[]
  /** what has to be said before the gesture is made; the note says why */
  asks?: string
  /** changes that could not be kept */
  dropped?: string[]
}

/** Check is one thing that is wrong, or may be. */
export interface Check {
  severity: Severity
  at: Ref
  sentence: string
  fixes?: Fix[]
}

/** Clip is a whole rig taken out of a composition, to be put into this or another one: the items that were picked with all that hangs on them, parents before what hangs on them, and all that is among them: controls, links, rows, graphs, poses, limits. */
export interface Clip {
  project?: Id
  composition: Id
  items: SceneItem[]
  /** Rows are the links on rows all of whose members are among the items, and on the rows of copies that they show; Parts those of which some members are, as rows of these. */
  rows?: SceneRosterLink[]
  parts?: SceneRosterLink[]
  /** Graphs drive items among them, and are copied with them. */
  graphs?: Graph[]
  /** Slots are the items outside that they look at or hang on, which are looked for by name where the clip is put elsewhere. */
  slots?: SavedSlot[]
}

/** Column is one of a table: numbers or texts, row by row. */
export interface Column {
  /** the key of its property */
  id: Id
  name: string
  numbers?: number[]
  texts?: string[]
}

/** Composition is a composition without its items. */
export interface Composition {
  id: Id
  name: string
  width: number
  height: number
  rate: number
  frames: number
  background: [number, number, number, number]
  drawers?: Drawer[]
  markers?: Marker[]
  handOff?: HandOff
  looks?: OwnLook[]
  /** the composition that it is a reading of */
  reading?: Id
  /** Offered are the controls that are handed off and that are there, as whoever gets them sees them, by the ids of their offers. */
  offered?: Control[]
  /** the compositions that its pieces show */
  shows?: Id[]
}

/** Contour is a line through vertices. */
export interface Contour {
  closed?: boolean
  vertices: PathVertex[] | null
}

/** Control is a property that a designer added to an item in order to drive others. */
export interface Control {
  id: Id
  name: string
  kind: Widget
  note?: string
  /** faders */
  unit?: Unit
  /** faders: whole numbers only */
  whole?: boolean
  /** points: three components instead of two */
  depth?: boolean
  /** range of the widget */
  softMin?: number
  softMax?: number
  /** hard limits */
  min?: number
  max?: number
  /** choices: the names of their options */
  options?: string[]
  /** of the widget; 0 for one made from the range */
  step?: number
  /** of the controls from this one on, in its drawer */
  heading?: string
  /** a colour in its drawer, 0 for none */
  accent?: number
  default: Value
  /** shown on the viewport, too */
  laid?: Laid
  /** Poses are the stops of a control of poses: places on a fader, the options of a choice, off and on of a switch. */
  poses?: PoseStop[]
}

/** ControlKind is a kind of control: what it is when nothing else is said, and how one begins. */
export interface ControlKind {
  kind: Widget
  name: string
  type: ValueType
  /** that it always has */
  unit?: Unit
  /** Begins is how a new one begins: its value, its range, its options. */
  begins: Partial<Control>
}

/** ControlSet is controls that are kept by a name, to be put onto other items: what they are (kinds, names, ranges, units, defaults, notes, stops of poses), and nothing of what they drive or were set to. */
export interface ControlSet {
  id: Id
  name: string
  controls: Control[]
}

/** CopiesLimits is how many copies an item shows at most where nothing is said, and how many it can be told to. */
export interface CopiesLimits {
  usual: number
  most: number
}

/** CopiesShape is what an item of kind copies has besides its properties. */
export interface CopiesShape {
  /** the most copies it ever shows; 0 for UsualCopies */
  limit?: number
  /** the path that its copies stand along, where they are arranged so */
  along?: Id
}

/** Counting says how the members of a roster are counted. */
export type Counting = '' | 'number' | 'share' | 'curve'

/** Curve is what a property is over a span of frames. */
export interface Curve {
  ref: Ref
  /** it was not asked for, but drives what was */
  source?: boolean
  /** Values are one step after the other, all components of each; null where there is no such property. */
  values: number[] | null
}

/** Difference is something that is otherwise now than in a state that was kept. */
export interface Difference {
  /** the property, where it is about one, or the item */
  ref: Ref
  /** of the item, and the property */
  name: string
  /** what of it is another: "value", "pins", "links", "limits", or one of parts; or that it is "new" or "gone" */
  what: string
  /** it is there now */
  here?: boolean
}

/** Drawer is where the controls of an item stand on the Desk. */
export interface Drawer {
  item: Id
  /** it is kept above the others */
  top?: boolean
}

/** Drive is something that a drive slip gives its value. */
export interface Drive {
  ref: Ref
  spread?: Id
  link: Id
  name: string
}

/** Easing is how a value travels from a pin to the next one: a word, or a shape with its numbers behind it, such as "cubic 0.42 0 0.58 1.24". Stops of maps and of poses have words only. */
export type Easing = 'hold' | 'linear' | 'smooth'

/** EasingNumber is a number of a shape. */
export interface EasingNumber {
  name: string
  from: number
  to: number
  whole?: boolean
  value: number
}

/** EasingView is what an editor shows of the way from a pin to the next one. */
export interface EasingView {
  /** of a shape; else the easing itself */
  word: string
  /** Numbers are those of the shape, with their bounds; none of a word. */
  numbers: EasingNumber[]
  /** Drawn is the share of the rise at even steps of the time. */
  drawn: number[]
  /** Under and Over are how far it runs beyond the values of its pins, as shares of the rise. */
  under: number
  over: number
}

/** Finding is something that goes wrong while controls are moved. */
export interface Finding {
  severity: Severity
  at: Ref
  sentence: string
  frame: number
  /** how the controls stand at that moment; all others as they are in the document */
  settings: Setting[]
  /** Others is how many more there are of the same sort from the same cause; the sentence says so. */
  others?: number
}

/** Fit says what becomes of a value that is led to an input. */
export interface Fit {
  slip: Id
  in: string
  /** what it is turned into on the way: "n → xyz" */
  turns?: string
  /** why it cannot be led there */
  refused?: string
  /** why it is hardly meant */
  doubt?: string
  /** what would help either */
  mends?: Mend[]
}

/** Fix is a way out that one press goes. */
export interface Fix {
  label: string
  ops?: Operation[]
  /** Reattach asks for another source for the link with this id, which may be that of a link on a row. */
  reattach?: Id
  spread?: Id
  /** Together are properties whose lowest links, by their ids, can become one link on the row of their items. */
  together?: Ref[]
  links?: Id[]
}

/** FoldPort is an input or output of a slip in a fold, by the name that it has there. */
export interface FoldPort {
  slip: Id
  /** of the input, or of the output: empty for the whole value */
  key?: string
  out?: boolean
  name: string
}

/** Format is a kind of file that a composition is exported as. */
export interface Format {
  key: string
  name: string
  /** under which it is offered */
  group: string
  extension: string
  /** of the pictures, where they are encoded as moving ones */
  codec?: string
  /** Even formats have sizes that are even in both directions. */
  even?: boolean
  /** Clear formats can leave out the background. */
  clear?: boolean
  /** what it is good for, in a sentence */
  about: string
  /** it holds sounds */
  sound?: boolean
  /** it says how often it plays */
  loops?: boolean
  /** it holds one frame */
  one?: boolean
  /** Drawn formats hold pictures; the others are written of what there is. */
  drawn?: boolean
  /** Parted formats can be made in parts, that are joined without encoding anything anew. */
  parted?: boolean
  /** Thinned formats hold keys, as few as a tolerance allows. */
  thinned?: boolean
  /** Flat formats hold nothing but flat shapes. */
  flat?: boolean
  /** Table formats hold numbers, and no pictures. */
  table?: boolean
}

/** Fix is an edit that mends a problem. */
export interface FormulaFix {
  label: string
  at: number
  end: number
  text: string
}

/** Function is a function of the language. The table of them is what completion, the list of functions and docs/formula.md are made from. */
export interface FormulaFunction {
  name: string
  usage: string
  help: string
  example: string
  group: string
}

/** Line is what a line of a formula gives at the frame last evaluated. */
export interface FormulaLine {
  /** from 1 */
  line: number
  value: Value
  /** in place of the value, where it gives many */
  list?: ListShown
}

/** Problem is a problem with its place in UTF-16 units, as editors in browsers count. */
export interface FormulaProblem {
  at: number
  end: number
  sentence: string
  warning?: boolean
  fixes?: FormulaFix[]
}

/** Formula is what an editor shows of a formula while it is typed. */
export interface FormulaView {
  /** with the names that things have today */
  text: string
  problems: FormulaProblem[]
  lines: FormulaLine[]
  type: string
  /** read out */
  words: string
  /** the first component of the result over the composition */
  curve?: number[]
}

/** Gatherable is a set of items whose values a formula can gather into a list. */
export interface Gatherable {
  /** as a formula names them: Lamp * */
  owner: string
  /** in words */
  of: string
  count: number
  /** the properties that all of them have */
  reads: GatheredRead[]
}

/** GatheredRead is a property of a set of items. */
export interface GatheredRead {
  name: string
  tag: string
  type: ValueType
  /** the reference to it, as formulas hold it */
  stored: string
  control?: boolean
}

/** Graph is boxes and cables that say what formulas say. It belongs to the composition, so that nothing of it breaks where items move. What drives something is a link of kind graph, which names the graph and one of its drive slips. */
export interface Graph {
  id: Id
  name: string
  note?: string
  slips?: Slip[]
  wires?: Wire[]
}

/** HandOff is what of a composition is handed to whoever uses it without its wiring: a colleague, or another composition that shows it as a piece. */
export interface HandOff {
  /** to who gets it */
  note?: string
  offers?: Offer[]
}

/** Held is the value that a link of poses gives at a stop of its control. */
export interface Held {
  stop: Id
  value: Value
}

/** ID names a project, composition, item, control or link for as long as it lives. Names are free and may repeat; ids never do within a project. */
export type Id = string

/** Item is an item with the specifications of its controls. */
export interface Item {
  id: Id
  name: string
  kind: ItemKind
  /** what the item is attached to */
  parent?: Id
  hidden?: boolean
  locked?: boolean
  notInOutput?: boolean
  /** a colour in the tree, 0 for none */
  label?: number
  note?: string
  controls?: Control[]
  /** of a picture or flipbook, or the surface of an object */
  frames?: PictureFrame[]
  /** of a gradient, between its first and its last colour */
  stops?: Stop[]
  attachment?: Attachment
  /** of copies */
  copies?: CopiesShape
  /** of a sound; absent: it has none yet, and is silent */
  sound?: Sound
  /** of a table; absent: it has none yet */
  table?: Table
  /** of a mesh */
  mesh?: string
  /** of a piece */
  piece?: Shown
  /** States holds what was set of each property, by the key of the catalogue or the id of the control. A property that was never touched is absent and has its default. */
  states?: Record<string, State>
  /** whether it has one; its vertices are asked for by themselves */
  path?: boolean
  /** how the inside of its path is told from the outside */
  evenOdd?: boolean
  /** Specs of its controls, of its vertices that have slots, and of what has other limits than its kind. */
  specs?: Spec[]
}

/** Class is how items of a kind are drawn. */
export type ItemClass = 'null' | 'outlined' | 'pictured' | 'solid' | 'light' | 'particles' | 'camera' | 'copy' | 'sound' | 'data' | 'piece'

/** Kind is what an item is. */
export type ItemKind = 'null' | 'text' | 'rectangle' | 'ellipse' | 'polygon' | 'star' | 'path' | 'picture' | 'flipbook' | 'box' | 'ball' | 'cylinder' | 'cone' | 'torus' | 'plane' | 'capsule' | 'mesh' | 'pointLight' | 'spotLight' | 'directionalLight' | 'ambientLight' | 'emitter' | 'camera' | 'zone' | 'sound' | 'table' | 'copies' | 'piece' | 'copy'

/** ItemLink is a link of one of several selected items, on the property that is asked about. */
export interface ItemLink {
  item: Id
  link: Link
}

/** Kind is a kind of item with its properties, those that can be set and those that can only be read. */
export interface Kind {
  kind: ItemKind
  /** in sentences and menus */
  name: string
  class: ItemClass
  /** of the menu that adds it */
  menu: string
  /** the name of several */
  many: string
  drawn: boolean
  specs: Spec[]
  /** derived; without slots unless a link asks for them */
  readable: Spec[]
}

/** KindColumn is where a property of all items of a kind stands: the first slot of that of the first, and how much further on that of the next one stands. Those that nobody touches stand once for all items: with a step of 0. */
export interface KindColumn {
  first: number
  step: number
}

/** Lack is something that a format can't hold, and what is done about it. */
export interface Lack {
  item: Id
  what: string
}

/** Laid is where a control stands on the viewport. */
export interface Laid {
  /** in the composition, or from the place of the item it travels with; pixels */
  at: [number, number]
  /** With is the item that it travels with; empty: it stays where it is. */
  with?: Id
}

/** Limits hold a component of a property; absent ones do not. Both alike lock it. */
export interface Limits {
  min?: number
  max?: number
}

/** Link makes a property, or one component of it, depend on another. */
export interface Link {
  id: Id
  kind: LinkKind
  source: Ref
  /** of the target; empty for the whole property */
  component?: string
  /** what it does to what is below it; empty: replace */
  operation?: LinkOperation
  gain: number
  offset: number
  /** besides, by component of the target */
  offsets?: number[]
  /** of a map, by rising input */
  stops?: MapStop[]
  /** of a map; empty: hold */
  beyond?: Beyond
  /** in frames; the source is looked at so long ago */
  delay?: number
  /** the delay is shown in seconds */
  seconds?: boolean
  off?: boolean
  /** Formula of a formula link, with its references bound to ids: the last version that could be worked out. Draft is what was typed since then and cannot be, kept as typed. */
  formula?: string
  draft?: string
  /** FirstUnit is of a formula that was written before format 3 and multiplies: its result has the unit of the first of the values that it chooses from, or that bound it, as it had then. A formula that is written anew does not have it. */
  firstUnit?: boolean
  /** Graph and Slip are of a graph link: the drive slip that gives its value, whose formula stands in Formula. */
  graph?: Id
  slip?: Id
  /** Held is what a link of poses gives at the stops of its control. */
  held?: Held[]
  /** World gives a place or a rotation in the composition, or one component of a place; it goes through the target's parents, and, of a vertex, through the item that has it. */
  world?: boolean
  /** Stagger of a link on a roster: what is added for each member in turn. */
  stagger?: Stagger
}

/** LinkKind is how a link turns its source into a value. */
export type LinkKind = 'follow' | 'formula' | 'graph' | 'map' | 'pose'

/** LinkKind is a kind of link, with what it fits. */
export interface LinkKindInfo {
  kind: LinkKind
  /** as the title of its editor */
  name: string
  /** looks at one property, its Source */
  sourced?: boolean
  /** gives that × Gain + Offset and nothing else */
  linear?: boolean
  /** has stops to mark */
  stops?: boolean
  /** has a text that people write, and a draft of it */
  written?: boolean
  /** is given its value by a drive slip of a graph */
  graphed?: boolean
  /** holds values at the stops of a control of poses */
  posed?: boolean
  /** the targets, whole, that a source of a type can drive; nothing where it has no source */
  fits: Partial<Record<ValueType, ValueType[] | null>>
}

/** Operation is what a link does to the value below it in the stack. */
export type LinkOperation = '' | 'add' | 'multiply'

/** ListShown is what is shown of a list: whose values it has, how many, and the first of them. */
export interface ListShown {
  /** whose, in words */
  of: string
  count: number
  names: string[]
  values: Value[]
}

/** Look is what controls stood at, kept by a name: those of one drawer, or of all. */
export interface Look {
  id: Id
  name: string
  /** the item whose controls they are; empty: those of all items */
  of?: Id
  values: LookValue[]
}

/** LookValue is what one control stood at. */
export interface LookValue {
  item: Id
  control: Id
  value: Value
}

/** MapStop is what a map gives at an input, and the way from there to the next stop. */
export interface MapStop {
  in: number
  out: Value
  easing: Easing
}

/** Marker is a named place in time. */
export interface Marker {
  id: Id
  name: string
  frame: number
}

/** Mend is what can be put between a value and an input so that they fit. */
export interface Mend {
  label: string
  /** a formula of what is led there, which it calls held */
  text: string
}

/** Named is an easing with a name, as it is chosen from. */
export interface Named {
  name: string
  easing: string
  /** Drawn is the share of the rise at even steps of the time, from the first pin to the next. */
  drawn: number[]
}

/** Offer is a control that is handed off, with what is different about it there: what is absent is as the control has it. */
export interface Offer {
  id: Id
  /** that carries the control */
  item: Id
  control: Id
  /** of the offers from this one on */
  heading?: string
  name?: string
  note?: string
  /** Limits within those of the control. For a text, Max is how many letters it may have. */
  min?: number
  max?: number
  /** absent: what the composition itself shows, its pins among it */
  default?: Value
  /** it can be set, but not pinned */
  noPins?: boolean
}

/** Operator is an operator of the formula language as a slip: how it is written there, what it is called, and its inputs in order. */
export interface Operator {
  text: string
  name: string
  help: string
  ins: string[]
}

/** Options say what is moved in a rehearsal, from which frame, and what is told of it. */
export interface Options {
  /** that are swept; none: all that nothing drives */
  controls?: Ref[]
  /** at which */
  frame: number
  /** whether members of rows that overlap are told */
  overlaps?: boolean
}

/** OwnBefore is a state of a composition that is kept. */
export interface OwnBefore {
  id: Id
  name: string
  composition: Id
}

/** OwnLook is a look without its values. */
export interface OwnLook {
  id: Id
  name: string
  /** the item whose controls they are; empty: those of all items */
  of?: Id
}

/** OwnRecipe is a recipe of the project without what it is made of. */
export interface OwnRecipe {
  id: Id
  name: string
  help?: string
  fields?: SavedField[]
  slots?: SavedSlot[]
}

/** Part is a run of the pictures of an export, counted from 0. Parts hold no sound. */
export interface Part {
  first: number
  count: number
}

/** PastStep is a change with what takes it back, as the store has it. */
export interface PastStep {
  id: string
  ops: Operation[] | null
  inverse: Operation[] | null
}

/** PathPin is a pin on the way of a point, with its handles where it has any. */
export interface PathPin {
  frame: number
  place: [number, number, number]
  lead?: [number, number, number]
  arrive?: [number, number, number]
}

/** PathShape is the drawn form of a path: contours of vertices in the item's own space. */
export interface PathShape {
  contours: Contour[] | null
  /** what is inside, where contours overlap */
  evenOdd?: boolean
}

/** Vertex is a corner or a smooth point of a contour. Its place is where it was drawn: the default of a property of its own, which can be set, pinned and driven like any other. */
export interface PathVertex {
  /** unique within the item, for as long as the vertex lives */
  id: number
  at: [number, number]
  /** handle toward the vertex before, counted from At; zero for none */
  in: [number, number]
  /** handle toward the next */
  out: [number, number]
}

/** PathView is the way of a point through its pins, as it lies in the composition at the frame last evaluated. */
export interface PathView {
  /** none where there is no way to be shaped */
  pins: PathPin[]
  /** places along it */
  line: ([number, number, number])[]
}

/** Performance is what a hand did with a property, sample by sample: where the playhead was, and what the value was made. */
export interface Performance {
  ref: Ref
  /** in rising order; several may lie within one frame */
  frames: number[]
  values: Value[]
}

/** Picture is a picture of a file: its bytes, and what sort of picture they are. */
export interface Picture {
  name: string
  /** its media type; empty where the file doesn't say */
  type: string
  /** base64 */
  data: string | null
}

/** Frame is one picture of an item that shows pictures: a whole file, or a rectangle of it. */
export interface PictureFrame {
  asset: AssetID
  /** Part of the picture in its pixels: left, top, width, height. All zero for the whole of it. */
  part?: [number, number, number, number]
}

/** Pin is a value at a frame, and the way from it to the next pin. */
export interface Pin {
  frame: number
  value: Value
  easing: string
  /** Of a point: where its path leaves the pin to, and arrives at it from, as vectors from the value. Where a property has a pin with one of them, it moves along a path, and easings say how far along each span. Absent ones go straight. */
  lead?: Value
  arrive?: Value
}

/** PinAt names one pin. */
export interface PinAt {
  item: Id
  property: string
  frame: number
}

/** PinClip is pins that were copied, to be pasted at another frame or onto other properties. */
export interface PinClip {
  rows: PinRow[]
}

/** PinRow is the pins of one property, their frames counted from the first of the clip. */
export interface PinRow {
  ref: Ref
  type: ValueType
  pins: Pin[]
}

/** Player is an item as a piece shows it. */
export interface Player {
  id: Id
  kind: ItemKind
  frames?: PictureFrame[]
  stops?: Stop[]
  evenOdd?: boolean
}

/** Port is an input or an output of a slip: its key, by which cables name it, unique on its side of the slip, and what it is called. */
export interface Port {
  key: string
  name: string
}

/** Pose is a value that a driven property is shown at for the time being, in place of what drives it. */
export interface Pose {
  ref: Ref
  value: Value
}

/** PoseStop is a stop of a control of poses, at which it shows a whole state of what it moves. */
export interface PoseStop {
  /** within its control */
  id: Id
  name: string
  /** on a fader; a choice or a switch has its stops at 0, 1, 2 … */
  at?: number
  /** of the way to the next stop, on a fader */
  easing: Easing
}

/** Progress is how far something is. */
export interface Progress {
  done: number
  of: number
}

/** Project is a document: everything that is saved and changed together. */
export interface Project {
  id: Id
  name: string
  compositions: SceneComposition[] | null
  /** rigs of the designer's own, to be made again */
  recipes?: SavedRecipe[]
  /** states of compositions that are kept to compare with */
  befores?: Before[]
  /** controls that are kept to be put onto items */
  sets?: ControlSet[]
}

/** Part is what of a project a file holds. Whatever it is, the file is one of a project, which can be opened by itself. */
export type ProjectPart = '' | 'composition' | 'hand-off' | 'recipe' | 'set'

/** ReadTable is a table that was read, and what of it is other than in its file, in sentences. */
export interface ReadTable {
  table: Table
  notes: string[]
}

/** Step is one thing on the way of an influence, from a property up to what moves it in the end. */
export interface Reason {
  at: Ref
  sentence: string
  value: Value
  /** the influence dies here */
  dead?: boolean
  /** how many others it comes by way of */
  depth?: number
}

/** Recipe is a rig in one step on what is selected, out of ordinary items, links and formulas: nothing in it is special, and everything can be edited after. The table of them is what the form on the page reads; docs/rigs.md lists them. */
export interface Recipe {
  key: string
  name: string
  help: string
  fields: RecipeField[] | null
  /** how many items it needs */
  least: number
}

/** RecipeField is a number of the form of a recipe, or a choice among options. */
export interface RecipeField {
  key: string
  name: string
  unit?: string
  default: number
  options?: string[]
  /** Optional fields can be left out, and some are at first. */
  optional?: boolean
  off?: boolean
}

/** Reckoned is what somebody typed into a field for a number: a sum, or any other formula that gives one. */
export interface Reckoned {
  value?: number
  /** that it was given in: 2s are seconds */
  unit?: Unit
  /** what is wrong with it, where it gives none */
  sentence?: string
}

/** Ref points at a property of an item, or at one component of it. */
export interface Ref {
  item: Id
  property: string
  component?: string
}

/** Rehearsed is how far a rehearsal has come, and what it has found so far, the gravest first. */
export interface Rehearsed {
  /** moments */
  done: number
  of: number
  over: boolean
  found: Finding[]
}

/** Roster is an ordered list of members. */
export interface Roster {
  kind: RosterKind
  /** whose children or vertices */
  item?: Id
  /** picked, in order; or the order of members that are found otherwise */
  items?: Id[]
  /** those in Items are counted first, then the others in the order made: from the back of the tree to its front */
  made?: boolean
  /** of names; see Matches */
  pattern?: string
  /** Of makes rows: in place of what hangs on one item, what hangs on every member of another roster, each of which has a row of its own. */
  of?: Roster
}

/** RosterKind is how a roster finds its members. */
export type RosterKind = 'children' | 'chain' | 'picked' | 'named' | 'vertices' | 'copies'

/** RosterLink is a link on a roster with the members that it has now, which interfaces need not find by themselves. */
export interface RosterLink {
  id: Id
  name: string
  roster: Roster
  property: string
  component?: string
  /** Parts holds the members that are driven at a component of their own. */
  parts?: Record<Id, string>
  /** Keys holds the members that are driven at a property of their own, in place of Property; those of items only. */
  keys?: Record<Id, string>
  /** members that opted out; they are counted all the same */
  out?: Id[]
  link: Link
  /** percent; absent: whole */
  weight?: number
  /** WeightFrom is the property that is the weight, in percent, in place of a number. */
  weightFrom?: Ref
  /** Pair is a second roster: the partner of a member is the one that stands at its place there. */
  pair?: Roster
  /** none of copies, which are as many as are shown */
  members: Ref[]
}

/** SavedField is a number of one of the items that the form asks for. */
export interface SavedField {
  /** with a component where the property has several */
  ref: Ref
  name: string
  unit?: Unit
  default: number
}

/** SavedRecipe is a rig that was saved to be made again: items with their links among each other, numbers of them that its form asks for, and what they look at outside of themselves. */
export interface SavedRecipe {
  id: Id
  name: string
  help?: string
  /** parents before what hangs on them */
  items: SceneItem[] | null
  /** links on rows of them alone */
  rows?: SceneRosterLink[]
  /** what of graphs drives them */
  graphs?: Graph[]
  fields?: SavedField[]
  slots?: SavedSlot[]
}

/** SavedSlot is an item outside of the recipe that its items look at or hang on: another one is chosen for it when it is made. */
export interface SavedSlot {
  /** as the items of the recipe name it */
  item: Id
  name: string
  kind: ItemKind
  /** Reads are the properties of it that are looked at; of a control its name as well, by which that of another item is found. */
  reads?: SlotRead[]
  /** Hangs says that items only hang on it: they can do without. */
  hangs?: boolean
}

/** Composition is a stage of a fixed size over a fixed number of frames. */
export interface SceneComposition {
  id: Id
  name: string
  /** pixels */
  width: number
  /** pixels */
  height: number
  /** frames a second */
  rate: number
  /** length */
  frames: number
  /** a colour */
  background: [number, number, number, number]
  /** Items in the order of the tree: of two items with the same parent, the earlier stands above in the tree and in front in the picture. */
  items: SceneItem[] | null
  /** RosterLinks are the links on rosters, the lowest first; in a stack they stand below the links of the property itself. */
  spreads?: SceneRosterLink[]
  graphs?: Graph[]
  /** Drawers is how the drawers of the Desk are arranged; those that it does not name follow in the order of the tree. */
  drawers?: Drawer[]
  /** Markers are named places in time, in the order of their frames. */
  markers?: Marker[]
  handOff?: HandOff
  /** Looks are what its controls stood at, kept by names. */
  looks?: Look[]
  /** Reading is the composition that this is a reading of; see IsReading. */
  reading?: Id
}

/** Item is anything in a composition: what is drawn, what lights it or looks at it, and what only carries others or their controls. */
export interface SceneItem {
  id: Id
  name: string
  kind: ItemKind
  /** what the item is attached to */
  parent?: Id
  hidden?: boolean
  locked?: boolean
  notInOutput?: boolean
  /** a colour in the tree, 0 for none */
  label?: number
  note?: string
  controls?: Control[]
  /** of a path */
  path?: PathShape
  /** of a picture or flipbook, or the surface of an object */
  frames?: PictureFrame[]
  /** of a gradient, between its first and its last colour */
  stops?: Stop[]
  attachment?: Attachment
  /** of copies */
  copies?: CopiesShape
  /** of a sound; absent: it has none yet, and is silent */
  sound?: Sound
  /** of a table; absent: it has none yet */
  table?: Table
  /** of a mesh */
  mesh?: string
  /** of a piece */
  piece?: Shown
  /** States holds what was set of each property, by the key of the catalogue or the id of the control. A property that was never touched is absent and has its default. */
  states?: Record<string, State>
}

/** RosterLink is one link on a whole roster: it drives the same property of every member. */
export interface SceneRosterLink {
  id: Id
  name: string
  roster: Roster
  property: string
  component?: string
  /** Parts holds the members that are driven at a component of their own. */
  parts?: Record<Id, string>
  /** Keys holds the members that are driven at a property of their own, in place of Property; those of items only. */
  keys?: Record<Id, string>
  /** members that opted out; they are counted all the same */
  out?: Id[]
  link: Link
  /** percent; absent: whole */
  weight?: number
  /** WeightFrom is the property that is the weight, in percent, in place of a number. */
  weightFrom?: Ref
  /** Pair is a second roster: the partner of a member is the one that stands at its place there. */
  pair?: Roster
}

/** Set gives properties a value. A property that moves with pins gets a pin at the playhead; one that is driven is posed; any other gets a new own value. */
export interface Set {
  /** with a component: only that one is set */
  targets: Ref[] | null
  value: Value
}

/** Setting is a control with the value that it is set to. */
export interface Setting {
  ref: Ref
  value: Value
}

/** Severity tells a mistake from a hint. */
export type Severity = 'error' | 'warning' | 'tip'

/** Shown is what an item of kind piece shows: another composition of the project. The controls which that hands off are properties of the piece, by the ids of their offers. */
export interface Shown {
  composition: Id
}

/** ShownGraph is what a sheet shows of a graph at a frame, for one member of its roster. */
export interface ShownGraph {
  slips: ShownSlip[]
  /** Members are those of the roster that is looked at, of copies those that are shown; 0 for none. */
  members?: number
  /** the one that is looked at, from 0 */
  member: number
}

/** ShownSlip is a slip as it is drawn: its words, its inputs, and what its outputs give at the frame. */
export interface ShownSlip {
  id: Id
  called: string
  /** Text and Fields are what is written on it with the names of what it refers to, where that is anything. */
  text?: string
  fields?: Record<string, string>
  ins: Port[]
  outs: SlipOutput[]
  drives?: Drive[]
  /** why it gives nothing, or drives nothing */
  fault?: string
}

/** Slip is one box on the sheet of a graph: it reads, computes, drives, or says something. Which of its fields are meant is by its kind. */
export interface Slip {
  id: Id
  kind: SlipKind
  /** of its upper left corner on the sheet, in pixels; y points down */
  at: [number, number]
  /** of a note */
  size?: [number, number]
  title?: string
  /** the colour of a note, 0 for none */
  label?: number
  /** Text is by the kind: the reference of what is read, with ids; a literal; the function or operator; the words that are given; a formula; what a note says. */
  text?: string
  /** Fields are literals in inputs that no wire leads to, by input. */
  fields?: Record<string, string>
  /** Stops and Beyond are of a map, as those of a map link. */
  stops?: MapStop[]
  beyond?: Beyond
  /** Within is the fold that the slip lies in; empty for none. Wires do not mind folds. */
  within?: Id
  /** Ports of a fold are the inputs and outputs of slips in it that it shows, and Open says that it shows the slips. */
  ports?: FoldPort[]
  open?: boolean
}

/** SlipKind is what a slip is. */
export type SlipKind = 'read' | 'value' | 'apply' | 'map' | 'formula' | 'words' | 'drive' | 'readout' | 'note' | 'fold'

/** SlipOutput is an output of a slip with the value that it gives at the frame. */
export interface SlipOutput {
  key: string
  /** what sort of value it is, in a letter or two */
  tag: string
  parts?: string[]
  /** absent where it is not finite */
  value: Value
  text?: string
  /** where it gives many values */
  list?: ListShown
}

/** SlotRead is a property that the links of a recipe read from what will take the place of a slot: that has to have one of this key, or a control of this name and type. */
export interface SlotRead {
  key: string
  name: string
  type: ValueType
}

/** Sound is what a sound item plays, and how loud it is from moment to moment. */
export interface Sound {
  asset: AssetID
  /** how long it is */
  seconds: number
  /** the frame that it begins at */
  start?: number
  /** Bands is how loud it is, as base64: for each of SoundBands a run of bytes, one for every SoundRate-th of a second from the beginning on, 255 where that band is loudest. */
  bands?: string
}

/** Source is an output of a slip; of none: a line that a slip needs on the way. */
export interface Source {
  slip: Id
  /** component or word; empty for the whole value */
  out?: string
}

/** Spec is a specification with where its values stand and its hard limits; a limit that does not exist is absent. */
export interface Spec {
  key: string
  name: string
  group: string
  type: ValueType
  unit: Unit
  default: Value
  /** range of a widget */
  softMin: number
  softMax: number
  step: number
  whole?: boolean
  /** of a choice, by number from 0 */
  options?: string[]
  /** derived from other properties */
  readOnly?: boolean
  /** By is a choice of the same item that says whether the property matters, and For the options with which it does; empty: it always does. */
  by?: string
  for?: string[]
  /** it can be set, but not pinned */
  noPins?: boolean
  /** which column of its kind it is; -1 for what an item has besides */
  column: number
  /** where it starts in what an item has besides; -1 where it has no slot there */
  offset: number
  min?: number
  max?: number
  tag: string
  parts?: string[]
  /** a link can give it in the composition's space */
  spaced?: boolean
  /** components that are worked out of the others; they can be driven */
  worked?: string[]
  /** never blended between pins */
  jumps?: boolean
  /** Held are the limits of its components, where these differ. */
  held?: Limits[]
}

/** Specs is the specifications of an item's controls, of its vertices that have slots, and of what has other limits than its kind. */
export interface SpecsOf {
  item: Id
  specs: Spec[]
}

/** Stage is what one piece shows. */
export interface Stage {
  /** by its index */
  piece: number
  /** the index of the first of its items */
  first: number
  /** of Casts */
  cast: number
}

/** Staged is what the pieces of a composition show: which items, and where they stand among the values. */
export interface Staged {
  stages: Stage[]
  /** the items of each composition that is shown, in the order of its tree */
  casts: (Player[] | null)[]
  /** the index of the first item that is shown; those of the composition itself, and their copies, come before */
  first: number
  /** from First on: where each stands among those of its kind */
  rows: number[]
  /** Marks say of each what becomes of it: 1 it is hidden, 2 copies show it in its place, 4 it is not in output; the sum of these. */
  marks: number[]
  /** first slot of where they are seen: a place as in a world transform, and what is left of the opacity */
  seen: number
  /** slots of each */
  stride: number
  /** all items by their index, the front first, copies left out */
  painted: number[]
}

/** Stagger adds something for each member of a roster in turn, times how far along it the member is. */
export interface Stagger {
  /** empty: from 0 */
  by?: Counting
  offset?: number
  /** Offsets is added besides, by component of the target. */
  offsets?: number[]
  gain?: number
  /** frames */
  delay?: number
  /** Seed shuffles the order in which members are counted; 0 leaves it as it is. */
  seed?: number
  /** Curve says by what it is multiplied along the roster, by share from 0 to 1, where members are counted along a curve. */
  curve?: MapStop[]
}

/** State is what a designer set of one property of one item. */
export interface State {
  /** absent: the default */
  own: Value
  pins?: Pin[]
  /** Beyond is how it goes on behind its last pin. */
  beyond?: Tail
  /** lowest first; the last has the last word */
  links?: Link[]
  /** Limits of the designer's own, of every component, within those of the property. Both alike lock it. */
  min?: number
  max?: number
  /** Limits are those of single components, by their names, within those of all of them. */
  limits?: Record<string, Limits>
  /** Baked is there while pins stand for the links: what undoing the bake brings back. */
  baked?: Baked
}

/** State is what is set of one property, to take the place of what was known of it. */
export interface StateOf {
  item: Id
  property: string
  /** null: nothing any more */
  state: State | null
}

/** Stop is a colour of a gradient and where it is met; between two stops colours are mixed. */
export interface Stop {
  /** share of the way, 0 to 1 */
  at: number
  colour: [number, number, number, number]
}

/** Structure is where everything stands. */
export interface Structure {
  /** items as the tree shows them */
  order: Id[]
  depths: number[]
  /** Columns are where the properties of each kind stand that there are items of. */
  columns: Partial<Record<ItemKind, KindColumn[] | null>>
  /** where each item stands among those of its kind */
  rows: number[]
  /** first slot of what each item has besides the properties of its kind */
  extras: number[]
  /** first slot of the world transforms */
  world: number
  /** slots of each of them */
  stride: number
  spreads: RosterLink[]
  /** by themselves or with what they hang on */
  hidden: boolean[]
  /** not in output, likewise */
  out: boolean[]
  /** what pieces show; absent: there are none */
  staged?: Staged
}

/** Survey is what all links together come to. */
export interface Survey {
  /** how many properties each drives, by "item/property" */
  drives: Record<string, number>
  /** Followers are the items that each property drives directly, by "item/property". */
  followers: Record<string, Id[] | null>
  checks: Check[]
  /** Formulas are the texts of formula links, with the names of today, by the id of the link on an item ("item/link") or of the link on a roster. */
  formulas: Record<string, string>
}

/** Table is numbers and words from elsewhere, in columns of as many rows each. A column is a property of its item that can only be read: what it is in the row that the item is at. */
export interface Table {
  columns: Column[] | null
  /** File is what it came from, for people. */
  file?: string
}

/** Tail is how a value goes on behind its last pin. */
export type Tail = '' | 'repeat' | 'mirror' | 'onward'

/** Unit is what a number is measured in. */
export type Unit = '' | '°' | '%' | 'px' | 's' | 'm' | '/s' | 'px/s' | 'px/s²'

/** Type is what kind of value a property holds. Angles and percents are numbers with a unit. */
export type ValueType = 'number' | 'point2' | 'point3' | 'colour' | 'switch' | 'text' | 'choice'

/** Vertex is a numbered vertex of a path or object, as it stands in the composition. */
export interface Vertex {
  id: number
  /** counted from 1 */
  number: number
  /** of the property that is its place */
  key: string
  /** in the item's own space */
  at: [number, number, number]
  /** in the composition */
  place: [number, number, number]
  /** handles of a path, in the composition */
  in: [number, number, number]
  out: [number, number, number]
  /** whether it has any */
  handles?: boolean
  /** the vertex that the span behind it leads to; 0 for none */
  next?: number
}

/** View is what an interface has to take over after a call: only what changed since the last one. */
export interface View {
  revision: number
  /** changes that are not acknowledged yet */
  waiting: number
  canUndo: boolean
  /** the change that would be undone next, by its id */
  lastUndo?: string
  /** likewise, made again */
  lastRedo?: string
  /** changes are tried out: not sent until they are kept */
  trying: boolean
  /** how many steps */
  tried: number
  canRedo: boolean
  name: string
  compositions: Composition[]
  composition: Id
  poses: Ref[]
  /** those whose description changed */
  items: Item[]
  /** all items are as the interface has read them itself, but for: */
  known?: boolean
  /** what is worked out of them */
  specs?: SpecsOf[]
  /** of other items; all else of them is as before */
  states?: StateOf[]
  /** absent: as before */
  structure?: Structure
  /** those that changed */
  graphs?: Graph[]
  /** all that there are; absent: as before */
  graphOrder: Id[] | null
  /** of the project */
  recipes: OwnRecipe[]
  /** of the project */
  befores?: OwnBefore[]
  /** likewise */
  sets?: ControlSet[]
  /** what Survey tells may have changed */
  links: boolean
  /** what numbers in text slots stand for; absent: as before */
  texts?: string[]
}

/** Widget is the widget of a control and so the type of its value. */
export type Widget = 'fader' | 'dial' | 'colour' | 'point' | 'switch' | 'choice' | 'text'

/** Wire leads from an output of one slip to an input of another. No two lead to one input. */
export interface Wire {
  from: Id
  /** component or word; empty for the whole value */
  out?: string
  to: Id
  in: string
}

/** Word is what is known everywhere, by the slip that gives it. */
export interface Word {
  text: string
  outs: string[]
}

/** Written says how far a file is, or holds it. */
export interface Written {
  done: number
  of: number
  /** base64, when it is done */
  file?: string
}

/** An edit of the document, with what it needs to know and nothing else. */
export type Operation =
  | ({ op: 'baked.set' } & {
    composition: Id
    item: Id
    property: string
    value: Baked
  })
  | ({ op: 'before.add' } & {
    value: Before
    at: number
  })
  | ({ op: 'before.keep' } & {
    composition: Id
    before: Id
    name: string
  })
  | ({ op: 'before.remove' } & {
    before: Id
  })
  | ({ op: 'before.restore' } & {
    before: Id
  })
  | ({ op: 'before.set' } & {
    before: Id
    name: string
  })
  | ({ op: 'composition.add' } & {
    value: SceneComposition
    at: number
  })
  | ({ op: 'composition.put' } & {
    value: SceneComposition
  })
  | ({ op: 'composition.remove' } & {
    composition: Id
  })
  | ({ op: 'composition.set' } & {
    composition: Id
    name?: string | null
    width?: number | null
    height?: number | null
    rate?: number | null
    frames?: number | null
    background?: Value
    drawers?: Drawer[] | null
  })
  | ({ op: 'control.add' } & {
    composition: Id
    item: Id
    value: Control
    state?: State
    at: number
    /** What was set of the weights of the links on it. */
    weights?: Record<string, State>
  })
  | ({ op: 'control.move' } & {
    composition: Id
    item: Id
    control: Id
    at: number
  })
  | ({ op: 'control.remove' } & {
    composition: Id
    item: Id
    control: Id
  })
  | ({ op: 'control.set' } & {
    composition: Id
    item: Id
    value: Control
  })
  | ({ op: 'graph.add' } & {
    composition: Id
    value: Graph
    at: number
    asWas?: boolean
  })
  | ({ op: 'graph.remove' } & {
    composition: Id
    graph: Id
  })
  | ({ op: 'graph.set' } & {
    composition: Id
    graph: Id
    name: string
    note?: string
  })
  | ({ op: 'handoff.note' } & {
    composition: Id
    note: string
  })
  | ({ op: 'item.add' } & {
    composition: Id
    value: SceneItem
    at: number
  })
  | ({ op: 'item.attach' } & {
    composition: Id
    item: Id
    parent: Id
    /** How it hangs there: what it takes over, and where the parent stood. */
    attachment?: Attachment
  })
  | ({ op: 'item.copies' } & {
    composition: Id
    item: Id
    /** absent: the usual limit, and no path */
    copies: CopiesShape
  })
  | ({ op: 'item.frames' } & {
    composition: Id
    item: Id
    frames: PictureFrame[]
    /** empty: it stays what it is */
    kind?: ItemKind
  })
  | ({ op: 'item.move' } & {
    composition: Id
    item: Id
    at: number
  })
  | ({ op: 'item.path' } & {
    composition: Id
    item: Id
    path: PathShape
    /** What is set of vertices that come with the form, by key. */
    states?: Record<string, State>
  })
  | ({ op: 'item.piece' } & {
    composition: Id
    item: Id
    shows: Id
  })
  | ({ op: 'item.remove' } & {
    composition: Id
    item: Id
  })
  | ({ op: 'item.set' } & {
    composition: Id
    item: Id
    name?: string | null
    hidden?: boolean | null
    locked?: boolean | null
    notInOutput?: boolean | null
    label?: number | null
    note?: string | null
  })
  | ({ op: 'item.sound' } & {
    composition: Id
    item: Id
    sound: Sound
  })
  | ({ op: 'item.stops' } & {
    composition: Id
    item: Id
    stops: Stop[]
  })
  | ({ op: 'item.table' } & {
    composition: Id
    item: Id
    table: Table
  })
  | ({ op: 'items.arrange' } & {
    composition: Id
    items: Id[]
    at: number[]
  })
  | ({ op: 'limits.set' } & {
    composition: Id
    item: Id
    property: string
    min?: number | null
    max?: number | null
    /** empty: those of all components together */
    component?: string
  })
  | ({ op: 'link.add' } & {
    composition: Id
    item: Id
    property: string
    link: Link
    at: number
    /** What was set of its weight, and of the weights of links on that. */
    weights?: Record<string, State>
    /** Weight is how changes that were stored earlier say it. */
    weight?: State
    asWas?: boolean
  })
  | ({ op: 'link.move' } & {
    composition: Id
    item: Id
    property: string
    link: Id
    at: number
  })
  | ({ op: 'link.remove' } & {
    composition: Id
    item: Id
    property: string
    link: Id
  })
  | ({ op: 'link.set' } & {
    composition: Id
    item: Id
    property: string
    link: Link
    asWas?: boolean
  })
  | ({ op: 'look.remove' } & {
    composition: Id
    look: Id
  })
  | ({ op: 'look.set' } & {
    composition: Id
    value: Look
    /** below 0: where it is, or the end */
    at: number
  })
  | ({ op: 'marker.remove' } & {
    composition: Id
    marker: Id
  })
  | ({ op: 'marker.set' } & {
    composition: Id
    value: Marker
  })
  | ({ op: 'offer.remove' } & {
    composition: Id
    offer: Id
  })
  | ({ op: 'offer.set' } & {
    composition: Id
    value: Offer
    /** below 0: where it is, or the end */
    at: number
  })
  | ({ op: 'own.set' } & {
    composition: Id
    item: Id
    property: string
    value: Value
  })
  | ({ op: 'piece.kept' } & {
    composition: Id
    item: Id
    property: string
    /** absent: nothing any more */
    state?: State
    weights?: Record<string, State>
  })
  | ({ op: 'pins.beyond' } & {
    composition: Id
    item: Id
    property: string
    beyond: Tail
  })
  | ({ op: 'pins.drop' } & {
    composition: Id
    item: Id
    property: string
    frames: number[]
  })
  | ({ op: 'pins.put' } & {
    composition: Id
    item: Id
    property: string
    pins: Pin[]
    /** Drop lists frames whose pins are taken away first. */
    drop?: number[]
  })
  | ({ op: 'project.rename' } & {
    name: string
  })
  | ({ op: 'recipe.add' } & {
    value: SavedRecipe
    at: number
  })
  | ({ op: 'recipe.remove' } & {
    recipe: Id
  })
  | ({ op: 'set.add' } & {
    value: ControlSet
    at: number
  })
  | ({ op: 'set.remove' } & {
    set: Id
  })
  | ({ op: 'slip.add' } & {
    composition: Id
    graph: Id
    value: Slip
    at: number
    wires?: Wire[]
    asWas?: boolean
  })
  | ({ op: 'slip.remove' } & {
    composition: Id
    graph: Id
    slip: Id
  })
  | ({ op: 'slip.set' } & {
    composition: Id
    graph: Id
    value: Slip
    asWas?: boolean
  })
  | ({ op: 'sound.start' } & {
    composition: Id
    item: Id
    start: number
  })
  | ({ op: 'spread.add' } & {
    composition: Id
    value: SceneRosterLink
    at: number
    asWas?: boolean
  })
  | ({ op: 'spread.remove' } & {
    composition: Id
    spread: Id
  })
  | ({ op: 'spread.set' } & {
    composition: Id
    value: SceneRosterLink
    asWas?: boolean
  })
  | ({ op: 'wire.add' } & {
    composition: Id
    graph: Id
    value: Wire
  })
  | ({ op: 'wire.remove' } & {
    composition: Id
    graph: Id
    to: Id
    in: string
  })

/** What a hand does, by its name. */
export interface Gestures {
  /** Add puts a new item in front of all others, or several of them side by side. */
  'add': {
    kind: ItemKind
    /** empty: one made from the kind */
    name?: string
    /** pictures that it shows */
    frames?: PictureFrame[]
    /** that it plays */
    sound?: Sound
    /** that it holds */
    table?: Table
    /** the composition that a piece shows */
    shows?: Id
    /** of what is shown, in pixels; zero for that of the kind */
    size?: [number, number]
    /** in the composition; absent for its middle, or beside what stands there */
    place?: [number, number, number] | null
    /** how many, from left to right; 0 for one */
    count?: number
  }
  /** AddControl puts a new control at the end of an item's drawer. What is left open of the control is filled in from its kind, or from the first property that it is to drive. */
  'add control': {
    /** empty: a new null */
    item: Id
    /** how that is called; empty: Panel */
    owner?: string
    control: Partial<Control>
    /** the properties that it drives at once */
    drives?: Ref[]
  }
  /** AddMarker puts a marker at a frame; without one, at the playhead. */
  'add marker': {
    /** empty: one that is free */
    name?: string
    at?: number | null
  }
  /** AddStop adds a stop to a fader or choice of poses. What it moves keeps its way there: the stop takes what stands between its neighbours until it is posed, or, as a duplicate, what another one holds. */
  'add stop': {
    item: Id
    control: Id
    /** empty: one made */
    name?: string
    /** on a fader; absent: where it stands */
    at?: number | null
    /** the stop that it is a duplicate of */
    like?: Id
  }
  /** AlignSlips brings slips into line. */
  'align slips': {
    graph: Id
    slips: Id[]
    /** left or top edges; spread across or down, evenly from the first to the last */
    how: string
  }
  /** ApplyLook sets controls to what a look keeps of them, as a hand would: what has pins gets one at the playhead. What a fader mixes is brought there by that fader. */
  'apply look': {
    look: Id
  }
  /** ApplyReading has the controls of a composition stand and be pinned as a reading of it has them: what somebody decided becomes the rig's own. The reading stays as it is. */
  'apply reading': {
    reading: Id
  }
  /** ArrangeSlips lays the slips of a graph out. */
  'arrange slips': {
    graph: Id
  }
  /** WriteAsFormula puts the formula that a graph comes to into a link in place of the graph, which stays. */
  'as formula': {
    target: Ref
    link?: Id
    spread?: Id
  }
  /** Attach makes items parts of another, or of none, so that nothing moves at the playhead. */
  'attach': {
    items: Id[]
    /** empty: detach */
    parent: Id
  }
  /** Bake turns what drives properties into pins over a range of frames. The links are switched off and kept; of a link on a roster, the item opts out. */
  'bake': {
    targets: Ref[]
    from: number
    to: number
    /** Tolerance is how far a value may lie off the baked one, in the property's unit; with it, pins that are not needed are left out. */
    tolerance: number
  }
  /** BendPath lets points move along a smooth path through their pins, or straight from pin to pin again. How they are eased stays, and is their speed along it. */
  'bend path': {
    targets: Ref[]
    straight?: boolean
  }
  /** BreakUp turns the copies that an item shows at the playhead into items that look the same: the item becomes a null, each copy a null on it, and each of these holds items like those that were copied. What drove the places of the copies drives these nulls. A piece becomes a null that holds the items of its composition. */
  'break up': {
    item: Id
  }
  /** BringLottie makes items of a Lottie animation, attached to a null with the name of the file; it begins at the frame of the gesture. */
  'bring lottie': {
    file: string
    /** of the file */
    name: string
    /** where the pictures of its assets are kept, empty for those that are none */
    pictures?: AssetID[]
    /** of its middle in the composition; absent for that of the composition */
    place?: [number, number, number] | null
  }
  /** BringModel makes objects of a glTF or GLB file, attached to a null with the name of the file; what moves of them begins at the frame of the gesture. */
  'bring model': {
    file: string
    /** the files that were chosen with it, by their names */
    parts?: Record<string, string>
    /** of the file */
    name: string
    /** where the pictures of its images are kept, empty for those that are not */
    pictures?: AssetID[]
    /** of its origin in the composition; absent for the middle of that */
    place?: [number, number, number] | null
  }
  /** BringProject brings what is in the file of a project, or of a part of one, into the project: its compositions with all they show, its recipes, and its sets of controls. All of it gets ids of its own; recipes and sets that are here already are not kept twice. */
  'bring project': {
    value: Project
    /** what the file is of; empty: all of it */
    part?: ProjectPart
  }
  /** BringSVG makes items of an SVG drawing, attached to a null with the name of the file. */
  'bring svg': {
    text: string
    /** of the file */
    name: string
    /** of its middle in the composition; absent for that of the composition */
    place?: [number, number, number] | null
  }
  /** CopyControl puts a copy of a control, with its value and pins, at the end of another drawer. */
  'copy control': {
    item: Id
    control: Id
    onto: Id
    /** Wired takes along what drives the control and what it drives: where it drives its own item, the copy drives the same of the item it comes to; elsewhere the copy's links come on top. */
    wired?: boolean
  }
  /** CutFrames makes a flipbook of a picture that holds many frames beside and below each other, row by row from the upper left. */
  'cut frames': {
    item: Id
    columns: number
    rows: number
    /** of the picture itself, in its pixels */
    size: [number, number]
  }
  /** Drive lets a drive slip give properties their values, by a new link on each, or, where they are several, by one on all of them as a roster. The property of a copy stands for that of all copies beside it; what arranges them is added to, unless the slip asks for what is below. */
  'drive': {
    graph: Id
    slip: Id
    targets: Ref[]
    roster?: boolean
  }
  /** DropPins takes pins away. A property that loses its last pin keeps the value it has at the playhead. */
  'drop pins': {
    pins: PinAt[]
  }
  /** Duplicate makes copies of items, with their links, pins, and all that hangs on them, above the first of them in the tree. */
  'duplicate': {
    items: Id[]
    /** By sets the copies apart from what they are made of: a way in the composition's space, in pixels. */
    by?: [number, number, number]
  }
  /** EasePins says how the value travels on from pins. */
  'ease pins': {
    pins: PinAt[]
    easing: string
  }
  /** EvenSpeed moves the pins of points in time so that the point goes along its way at one speed, from the first of the picked pins to the last: each comes after as much of the time as it is of the way. It does so to a whole frame; how each span is eased stays. */
  'even speed': {
    pins: PinAt[]
    /** Replace lets what is moved take the place of what is there. Without it, the gesture asks first. */
    replace?: boolean
  }
  /** FillInput writes into the field of an input. A field holds one value: what is made of parts becomes a formula slip that is led there. */
  'fill input': {
    graph: Id
    slip: Id
    in: string
    /** empty: nothing */
    text: string
  }
  /** FindMembers finds the members of a row in another way. Those that stay are counted in the order in which they were. */
  'find members': {
    spread: Id
    roster: Roster
  }
  /** FitRanges gives a follow link the gain and offset that lead the whole range of the source over the whole range of the target, and those of other targets that are alike with it. */
  'fit ranges': {
    targets: Ref[]
    /** of the first target */
    link: Id
    /** RosterLink is a link on a row, in place of targets. */
    spread?: Id
  }
  /** FoldSlips folds slips into one, which shows the inputs and outputs that lead out of them, and the inputs that still lack something. */
  'fold slips': {
    graph: Id
    slips: Id[]
    title?: string
  }
  /** Forget takes away what is kept of properties that the composition of a piece doesn't hand off any more. */
  'forget': {
    item: Id
    /** none: all that is kept */
    properties?: string[]
  }
  /** Formula writes a formula onto properties: as a new link on each, or in place of one that is there. What does not check is kept as typed, and the link goes on with its last good version. */
  'formula': {
    targets: Ref[]
    text: string
    /** Link is the link of the first target whose formula is changed, and with it those of the others that are alike; empty for a new one. */
    link?: Id
  }
  /** Gather lays properties onto a null as controls of its own, which drive them from then on: their values, pins and limits go over to the controls, and nothing changes in the picture. */
  'gather': {
    refs: Ref[]
    /** empty: a new null */
    onto: Id
  }
  /** GivePoses makes a control of poses of a fader, a choice or a switch: with two stops at the ends of its range, or one for each option. */
  'give poses': {
    item: Id
    control: Id
  }
  /** GoBack makes the composition what it was when a state of it was kept. */
  'go back': {
    before: Id
  }
  /** Group makes a null in the middle of items, or copies of them, and attaches them to it; where links drive the position of one, it stands where they hung, so that these lead them to the same places. */
  'group': {
    items: Id[]
    /** empty: Group, or Copies */
    name?: string
    /** Kind is what holds them: a null where it is empty, or copies, which show them many times. */
    kind?: ItemKind
  }
  /** Grow multiplies the scale of items. */
  'grow': {
    items: Id[]
    /** 1 leaves it as it is */
    by: [number, number, number]
  }
  /** HandOff hands controls off, behind those that are handed off already. What is at the same time a control and driven by links is refused: whoever gets it would move nothing. */
  'hand off': {
    /** in the order in which they are to stand */
    controls: Ref[]
    /** all controls of this item as well */
    drawer?: Id
  }
  /** Note writes the note that goes with what is handed off. */
  'hand-off note': {
    note: string
  }
  /** HoldAt writes what a link of poses gives at a stop. */
  'hold at stop': {
    item: Id
    control: Id
    stop: Id
    target: Ref
    link?: Id
    spread?: Id
    value: Value
  }
  /** Inherit says what items take over from what they are attached to, so that nothing moves at the playhead. What is left out stays as it is. */
  'inherit': {
    items: Id[]
    position?: boolean | null
    rotation?: boolean | null
    scale?: boolean | null
  }
  /** InsertTime makes room in time, or takes some out: all pins, and of everything the markers, from a frame on go later, or earlier. */
  'insert time': {
    /** a frame */
    at: number
    /** that come in there; below 0, as many behind it go, with the pins on them */
    frames: number
    /** Item is the drawer whose controls it is about; empty for everything in the composition, which becomes longer or shorter by as much. */
    item?: Id
  }
  /** KeepBefore keeps the composition as it is now, to be compared with and gone back to. */
  'keep before': {
    /** empty: one that is free */
    name?: string
  }
  /** KeepLook keeps what the controls of an item, or of all items, are at. What links drive is left out, but for what a fader mixes of looks already. */
  'keep look': {
    /** empty: the controls of all items */
    of?: Id
    /** empty: one made */
    name?: string
    /** one that is to keep this from now on; empty: a new one */
    look?: Id
  }
  /** KeepSet keeps the controls of a drawer as a set of the project. */
  'keep set': {
    item: Id
    /** empty: that of the item */
    name?: string
  }
  /** Letters takes a text apart: every letter becomes a text of its own that hangs on it, looks as it does and stands where it stood, so that the letters are a row that links can be spread over. The text itself is left empty. */
  'letters': {
    item: Id
  }
  /** Link makes one source drive many targets. The same property of several items is driven by one link on the row of them, unless single links are asked for. */
  'link': {
    source: Ref
    targets: Ref[]
    /** empty: follow, or what keeps what is seen */
    kind?: LinkKind
    /** FromHere keeps the present value: what the source does from now on is added to it. */
    fromHere?: boolean
    /** Follow asks for the value of the source itself, whatever the target is at. Without it, a property that drives another one of another sort begins from here. */
    follow?: boolean
    /** Single gives each target a link of its own. */
    single?: boolean
  }
  /** Mark makes a stop of the map that drives each property: the present value of the property at the present value of the map's source. A follow link becomes a map by it. */
  'mark': {
    targets: Ref[]
    /** low, high, here */
    which: string
  }
  /** MarkSlip makes a stop of a map slip: at the present value of what is led to it, the present value of the first property that a drive slip behind it drives. Where it leads to none, the stop gives what the map gives there. */
  'mark slip': {
    graph: Id
    slip: Id
    /** low, high, here */
    which: string
  }
  /** MendWire leads an output to an input by way of what makes it fit: a formula of what is held, as package graph offers it. */
  'mend wire': {
    graph: Id
    wire: Wire
    text: string
  }
  /** MixLooks has a fader mix looks: it gets a stop for each, in their order, and drives the controls in which they differ. A fader that mixes some of them already gets stops for the others, behind those that it has. */
  'mix looks': {
    looks: Id[]
    /** the item that gets the fader; empty: a null of its own */
    on?: Id
  }
  /** More makes one more like each of some items, wired like its model: with a copy of all that hangs on it and of what serves it alone (its shadow, its glow), which lead to each other; in the rows that the model is in, behind it. What serves all serves it, too. */
  'more': {
    items: Id[]
    /** By sets it apart from its model, in the composition's space, in pixels; absent: as far as the model stands from the one before it. */
    by?: [number, number, number] | null
  }
  /** Move moves items by a way in the composition's space. An item that hangs on another one of them is moved by that alone. */
  'move': {
    items: Id[]
    /** pixels */
    by: [number, number, number]
  }
  /** MoveControl puts a control at another place of its drawer, or into another drawer: all that it drives, and what drives it, goes along. */
  'move control': {
    item: Id
    control: Id
    onto: Id
    /** the place in that drawer; -1 is its end */
    at: number
  }
  /** MovePins moves pins in time and in value, or copies of them. */
  'move pins': {
    pins: PinAt[]
    /** frames */
    by: number
    /** they stay, and copies go */
    copy?: boolean
    /** Rise is added to their values, within limits: to one component, where that is named, of those that have it; else to single numbers. */
    rise?: number
    component?: string
    /** Replace lets what is moved take the place of what is there. Without it, the gesture asks first. */
    replace?: boolean
  }
  /** MoveVertex puts a vertex of a path or object at a place of the composition. */
  'move vertex': {
    item: Id
    /** id, or number of an object's */
    vertex: number
    /** in the composition's space */
    to: [number, number, number]
  }
  /** NameLook gives a look another name, and the stop that a fader has for it. */
  'name look': {
    look: Id
    name: string
  }
  /** NewGraph makes an empty graph, or one of a formula. */
  'new graph': {
    name?: string
    /** the formula */
    text?: string
  }
  /** OneLink puts one link on a row in place of single links that do the same on its members, or what grows evenly from one to the next. */
  'one link': {
    targets: Ref[]
    /** one on each target */
    links: Id[]
  }
  /** OpenAsGraph makes a graph of what a link does, and lets that give the link its value. */
  'open as graph': {
    target: Ref
    link?: Id
    spread?: Id
  }
  /** Operations makes operations as they are given. */
  'operations': {
    ops: Operation[]
  }
  /** Order puts items before another in the tree, attached to a parent. */
  'order': {
    items: Id[]
    parent: Id
    /** empty: at the end */
    before: Id
  }
  /** Paste puts a clip into the composition, in front. Links, rows and attachments inside of it lead to the copies. Those to the outside stay as they are in the composition that they came from; in another one they lead to items of the same names, or to those that are chosen for them, and are dropped where there is none, which is told. */
  'paste': {
    clip: Clip
    /** Slots are the items that are chosen for those outside, by the ids that these have in the clip; empty to leave out what leads there. */
    slots?: Record<Id, Id>
  }
  /** PasteLink puts copies of a link onto properties of any kind where it fits: on the same property of several items one, on the row of them. */
  'paste link': {
    link: Link
    targets: Ref[]
  }
  /** PastePins puts copied pins at the playhead: onto what they were copied from, or, where targets are given, onto those in order, as far as they take such values. */
  'paste pins': {
    clip: PinClip
    targets?: Ref[]
    /** Replace lets what is moved take the place of what is there. Without it, the gesture asks first. */
    replace?: boolean
  }
  /** Perform puts what was performed into pins, one at each frame, in the place of those that were there. */
  'perform': {
    rows: Performance[]
    /** Adds adds what the hand did to how they move, from the frame on at which it took them. */
    adds?: boolean
  }
  /** Pin pins properties at the playhead at the own values they have there; with Toggle, where all of them have a pin there already, those pins are taken away. */
  'pin': {
    targets?: Ref[]
    /** all controls of this item as well */
    drawer?: Id
    toggle?: boolean
    /** another frame than that of the playhead */
    at?: number | null
  }
  /** Pivot puts the pivot of items somewhere else without moving them. */
  'pivot': {
    items: Id[]
    /** in the item's own space */
    at?: [number, number, number] | null
    /** of what is drawn, instead */
    middle?: boolean
  }
  /** PoseStop shows a control of poses at one of its stops for the time being, while what is changed belongs to it. */
  'pose stop': {
    item: Id
    control: Id
    stop: Id
  }
  /** PullSlips takes slips out of the wires that they stand in, and closes the gaps; the wires between them stay. */
  'pull slips': {
    graph: Id
    slips: Id[]
  }
  /** PutSet puts the controls of a set onto items, behind those that they have. One that is there by its name, with the same kind of value, stays as it is; where something else has the name, the new one gets a free one. */
  'put set': {
    set: Id
    items: Id[]
  }
  /** PutSlips puts slips on a sheet, with wires between them and to those that are there; a wire to an input that has one takes its place. Ids that are not given are made. */
  'put slips': {
    graph: Id
    slips: Slip[]
    /** Wires name new slips by their place in Slips: #0, #1 and so on; so do slips what they lie in, which comes before them. */
    wires?: Wire[]
    /** At moves slips that are there. */
    at?: Record<Id, [number, number]>
  }
  /** MakeRecipe makes a rig on items. */
  'recipe': {
    recipe: string
    /** for one of the project: what takes the places of its slots, in order */
    items: Id[]
    /** Values are those of the form; what is absent of an optional field is left alone, of any other it is as it begins. */
    values: Record<string, number>
  }
  /** Remove takes items out. What was attached to them stays where it stands, attached to the next item above that remains. Links that had them as a source are kept and marked by the checks. */
  'remove': {
    items: Id[]
  }
  /** RemoveControls takes controls out of their drawers. Links that had them as a source are kept and marked by the checks. */
  'remove controls': {
    /** the property is the id of the control */
    controls: Ref[]
  }
  /** RemoveGraph takes a graph away, with the links that it gave their values; or, as formulas, leaves those as they are. */
  'remove graph': {
    graph: Id
    formulas?: boolean
  }
  /** RemoveStop takes a stop away. What was held there is kept by the links, and comes back where this is undone. */
  'remove stop': {
    item: Id
    control: Id
    stop: Id
  }
  /** ReplaceTable gives a table the columns of a newer file. Columns are matched by their names, so that what reads them goes on with the new ones; a column that is read and is not in the file stays as it is, and is told. */
  'replace table': {
    item: Id
    table: Table
  }
  /** Reset gives properties of pieces back to their composition: what was set of them and pinned goes, and they show what it does by itself. Links stay. */
  'reset': {
    targets: Ref[]
  }
  /** Reshape edits the drawn form of a path. Exactly one of the edits is given. */
  'reshape': {
    item: Id
    /** Handles gives a vertex other handles, in the item's own space. */
    handles?: {
      vertex: number
      in: [number, number]
      out: [number, number]
    }
    /** Insert puts a vertex on the span that begins at another, a share of the way along it, without changing the line. */
    insert?: {
      after: number
      share: number
    }
    /** ids of vertices */
    remove?: number[]
    /** all contours */
    close?: boolean | null
    /** vertices that get handles along the line through their neighbours */
    smooth?: number[]
    /** vertices that lose their handles */
    corner?: number[]
  }
  /** Retime lets items show a time of their own: copies that are among them all their copies; the others are put on copies that show them once, where they are. The time is pinned at the beginning and at the end, so that it goes on as it did until its pins are moved. */
  'retime': {
    items: Id[]
  }
  /** ReversePins turns the order of pins round, within the stretch of time that all of them take. */
  'reverse pins': {
    pins: PinAt[]
    /** Replace lets what is moved take the place of what is there. Without it, the gesture asks first. */
    replace?: boolean
  }
  /** SaveRecipe keeps items, with all that hangs on them and their links among each other, as a recipe of the project. What they look at outside of themselves becomes the slots of its form, the numbers that are chosen its fields. */
  'save recipe': {
    items: Id[]
    name: string
    help?: string
    /** of a field only what it is about and its name */
    fields?: SavedField[]
  }
  /** Set gives properties a value. A property that moves with pins gets a pin at the playhead; one that is driven is posed; any other gets a new own value. */
  'set': {
    /** with a component: only that one is set */
    targets: Ref[]
    value: Value
  }
  /** SetDepth gives a control that is a point its third component, or takes it away, with its values and pins. What it drives follows on. */
  'set depth': {
    item: Id
    control: Id
    depth?: boolean
  }
  /** SetEach gives several properties a value each, as hands do that have hold of several at once. */
  'set each': {
    sets: Set[]
  }
  /** SetOffer says how a control is handed off: under which name and heading, with which note, limits and default, and at which place. */
  'set offer': {
    value: Offer
    /** its place; absent: where it is */
    at?: number | null
  }
  /** SetOptions gives a choice other options. One that has poses keeps its stops by their names, else by their places; what is new is a stop that is as the last one before it until it is posed. */
  'set options': {
    item: Id
    control: Id
    options: string[]
  }
  /** SetPins gives all of some pins a value, or a component of it. A pin that takes no such value is an error. */
  'set pins': {
    pins: PinAt[]
    value: Value
    component?: string
  }
  /** SetStop renames, moves or eases a stop, or puts it at another place among the options of a choice. */
  'set stop': {
    item: Id
    control: Id
    stop: Id
    name?: string | null
    at?: number | null
    easing?: Easing | null
    /** of a choice */
    place?: number | null
  }
  /** ShapePath moves a pin of a point that moves along a path, or one of its handles. The handle on the other side turns along, so that the path stays smooth, and keeps its length. */
  'shape path': {
    pin: PinAt
    part: string
    /** the value of the pin, or the handle as a vector from it */
    to: Value
    /** where the hand is in the composition instead, for the position of an item or a control */
    at?: [number, number, number] | null
    /** the other handle stays as it is */
    alone?: boolean
  }
  /** Show shows properties at other values for the time being, whatever is pinned, as a hand does that performs them. */
  'show': {
    values: Pose[]
    /** Began are the frames at which the hand took each of them, where what it does is added to how they move. */
    began?: number[]
  }
  /** ShowAnother has pieces show another composition. What was set of the controls that the one before handed off is kept. */
  'show another': {
    pieces: Id[]
    shows: Id
  }
  /** SingleLinks gives members of a row links of their own, which do what the link on all of them does there. */
  'single links': {
    spread: Id
    /** Members are those that become exceptions: the row goes on without them. Empty: all, in place of the row. */
    members?: Id[]
  }
  /** SmoothPins leaves out pins that smooth spans between the others pass within a tolerance, as after a performance. */
  'smooth pins': {
    pins: PinAt[]
    /** how far a value may be off afterwards, in its own unit */
    tolerance: number
  }
  /** Spread makes a roster of items in the order in which they are given, and puts one link on the same property of all of them; where the property is a vertex of a path, of all its vertices. Items that are all there is on one parent, or all that is below it, become the roster of that, so that what is put among them later is in at once, at the end. */
  'spread': {
    /** the property of each item, in order */
    targets: Ref[]
    /** Copies makes the row that of the copies which an item shows, in place of targets: the property is theirs. */
    copies?: Ref
    /** Link is the link on the first of the targets that is spread, and taken off there; empty for a formula. */
    link?: Id
    /** of the formula */
    text?: string
  }
  /** RosterFormula changes the formula of a link on a roster. */
  'spread formula': {
    spread: Id
    text: string
  }
  /** SpreadPins puts the pins of each property at even distances between its first and its last. */
  'spread pins': {
    pins: PinAt[]
    /** Replace lets what is moved take the place of what is there. Without it, the gesture asks first. */
    replace?: boolean
  }
  /** StaggerPins moves the pins of each property later than those of the one before, in the order in which they are named. */
  'stagger pins': {
    pins: PinAt[]
    /** frames from one property to the next */
    by: number
    /** Replace lets what is moved take the place of what is there. Without it, the gesture asks first. */
    replace?: boolean
  }
  /** StepLook applies the look after, or before, the one that is shown; the first, or the last, where none is. */
  'step look': {
    /** whose looks; empty: those of all items */
    of?: Id
    /** 1: the next, -1: the one before */
    by: number
  }
  /** StretchPins stretches pins of any properties in time: what lies at one frame stays there, what lies at another goes to a third, all others go along. Stretched through what stays, they turn round. */
  'stretch pins': {
    pins: PinAt[]
    /** a frame */
    stays: number
    /** a frame */
    from: number
    /** where that goes */
    to: number
    /** Replace lets what is moved take the place of what is there. Without it, the gesture asks first. */
    replace?: boolean
  }
  /** TakeSlips takes slips off a sheet. A wire that came to the first input of one is led on to where its own wires led; links that drive slips gave their values go with them. */
  'take slips': {
    graph: Id
    slips: Id[]
  }
  /** ToMap makes maps of follow links, with the two stops that give what the links gave over the range of their sources, or further, as far as these reach now or by their pins. Beyond it a map holds, as every new one does. */
  'to map': {
    targets: Ref[]
    /** of the first target; those of the others that are alike with it become maps, too */
    link: Id
    /** RosterLink is a link on a row, in place of targets. */
    spread?: Id
  }
  /** Turn turns items about their pivots. */
  'turn': {
    items: Id[]
    /** degrees, counter-clockwise */
    by: number
    /** "x" or "y"; else z */
    axis?: string
  }
  /** TurnPoses turns a fader of poses into a choice, which holds, or a choice of poses into a fader, which mixes. */
  'turn poses': {
    item: Id
    control: Id
    kind: Widget
  }
  /** TurnRound makes the source of a follow link follow its target instead, or, of a graph, what it reads in one row of slips that each can be turned round. */
  'turn round': {
    target: Ref
    link: Id
  }
  /** UndoBake takes the pins of a bake away, whatever became of them, and switches on again what it switched off. */
  'undo bake': {
    targets: Ref[]
  }
  /** Unfold takes the slips out of a fold, and the fold away. */
  'unfold': {
    graph: Id
    slip: Id
  }
  /** UsePose turns the poses of properties into something that stays, or drops them. */
  'use pose': {
    targets: Ref[]
    /** own: the own value under the links; offset: of the follow link; empty: drop */
    as?: string
  }
  /** ValueControl makes a control of a value slip, or of what is written into an input: a null has it from then on, and it is read where the value stood. */
  'value control': {
    graph: Id
    slip: Id
    /** the input; empty for a value slip */
    in?: string
    /** the null; empty for a new one */
    onto?: Id
  }
  /** Withdraw hands controls off no longer. What pieces and readings set of them is kept, and comes back when they do. */
  'withdraw': {
    offers: Id[]
  }
}

/** The calls of the core, by their name. */
export interface Methods {
  'about slip': { argument: {
    graph: Id
    /** Member is which member of a roster that it drives is looked at, from 0; the one in the middle where there is none. */
    member: number
    slip: Id
    /** of the curve over the composition */
    steps: number
  }; answer: AboutSlip }
  'alike': { argument: {
    items: Id[]
    property: string
    link: Id
  }; answer: ItemLink[] | null }
  'bake': { argument: {
    targets: Ref[]
    from: number
    to: number
    /** Tolerance is how far a value may lie off the baked one, in the property's unit; with it, pins that are not needed are left out. */
    tolerance: number
  }; answer: Progress }
  'before': { argument: Id; answer: Project }
  'cancel': { argument: null; answer: Changed }
  'control for': { argument: Ref; answer: Control }
  'copy pins': { argument: PinAt[]; answer: PinClip }
  'curves': { argument: {
    refs: Ref[]
    /** how fast they change, per second */
    speed?: boolean
    from: number
    to: number
    steps: number
  }; answer: Curve[] | null }
  'deep': { argument: null; answer: Check[] | null }
  'differences': { argument: Id; answer: Difference[] | null }
  'do': { argument: {
    gesture: string
    with: unknown
    frame: number
    /** for the time being: the next one takes its place */
    preview?: boolean
    /** of the change that it makes; the same one twice is made once */
    id?: string
    /** whatever is set is pinned at the frame */
    pin?: boolean
    /** whatever is set belongs to this stop of a control of poses */
    posing?: AtStop
  }; answer: Changed }
  'easing': { argument: {
    easing: string
    /** to draw it in */
    steps: number
  }; answer: EasingView }
  'failing': { argument: null; answer: Lack[] | null }
  'fits': { argument: {
    graph: Id
    /** Member is which member of a roster that it drives is looked at, from 0; the one in the middle where there is none. */
    member: number
    from?: Source
  }; answer: Fit[] | null }
  'formula': { argument: {
    /** the property it stands on */
    target: Ref
    /** the link on a roster that it is of, in place of a link of the property */
    spread?: Id
    /** the link whose formula is asked for where no text is given */
    link?: Id
    /** as it is typed */
    text?: string | null
    /** of a curve over the composition; 0 for none */
    steps?: number
  }; answer: FormulaView }
  'gatherables': { argument: null; answer: Gatherable[] | null }
  'keep tried': { argument: string; answer: Changed }
  'lacks': { argument: string; answer: Lack[] | null }
  'looks shown': { argument: null; answer: Id[] | null }
  'moment': { argument: {
    frame: number
    settings: Setting[]
  }; answer: string }
  'paste asks': { argument: {
    project?: Id
    composition: Id
    items: SceneItem[]
    /** Rows are the links on rows all of whose members are among the items, and on the rows of copies that they show; Parts those of which some members are, as rows of these. */
    rows?: SceneRosterLink[]
    parts?: SceneRosterLink[]
    /** Graphs drive items among them, and are copied with them. */
    graphs?: Graph[]
    /** Slots are the items outside that they look at or hang on, which are looked for by name where the clip is put elsewhere. */
    slots?: SavedSlot[]
  }; answer: SavedSlot[] | null }
  'path': { argument: Ref; answer: PathView }
  'performable': { argument: Ref; answer: null }
  'pictures in': { argument: {
    /** else glTF */
    lottie?: boolean
    file: string
    parts?: Record<string, string>
  }; answer: Picture[] | null }
  'project': { argument: null; answer: Project }
  'reach': { argument: Ref; answer: Reason[] | null }
  'read': { argument: {
    item: Id
    keys: string[]
  }; answer: Record<string, Value> }
  'read table': { argument: {
    file: string
    name: string
  }; answer: ReadTable }
  'recall': { argument: {
    undo: string[]
    redo: string[]
    known: PastStep[]
  }; answer: Changed }
  'receive': { argument: Change[]; answer: Changed }
  'reckon': { argument: string; answer: Reckoned }
  'redo': { argument: string; answer: Changed }
  'rehearse': { argument: {
    begin: Options
    /** at most so many at a time, so that the page is answered in between */
    moments: number
  }; answer: Rehearsed }
  'response': { argument: {
    ref: Ref
    link: Id
    spread?: Id
    from: number
    to: number
    steps: number
  }; answer: number[] | null }
  'samples': { argument: {
    items: Id[]
    from: number
    to: number
    steps: number
  }; answer: Record<Id, Record<string, number[] | null>> }
  'select': { argument: Id; answer: Changed }
  'slip response': { argument: {
    graph: Id
    slip: Id
    from: number
    to: number
    steps: number
  }; answer: number[] | null }
  'slip values': { argument: {
    graph: Id
    /** Member is which member of a roster that it drives is looked at, from 0; the one in the middle where there is none. */
    member: number
    slips: Id[]
  }; answer: (Value[] | null)[] | null }
  'slips': { argument: {
    graph: Id
    /** Member is which member of a roster that it drives is looked at, from 0; the one in the middle where there is none. */
    member: number
  }; answer: ShownGraph }
  'survey': { argument: null; answer: Survey }
  'table': { argument: {
    refs: Ref[]
    from: number
    to: number
  }; answer: string }
  'take': { argument: Id[]; answer: Clip }
  'trace': { argument: Id; answer: ([number, number, number])[] | null }
  'try out': { argument: boolean; answer: Changed }
  'undo': { argument: string; answer: Changed }
  'vertices': { argument: Id; answer: Vertex[] | null }
  'void': { argument: {
    item?: Id
    property?: string
    link?: Id
    spread?: Id
  }; answer: string[] | null }
  'waiting': { argument: null; answer: Change[] | null }
  'why': { argument: Ref; answer: Reason[] | null }
  'write': { argument: {
    begin?: Asked
  }; answer: Written }
}
