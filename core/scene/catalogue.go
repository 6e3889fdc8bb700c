package scene

import (
	"math"
	"slices"
)

// Unit is what a number is measured in.
type Unit string

// The units. There are no radians; a scale of 100 percent is whole.
const (
	Plain           Unit = ""
	Degrees         Unit = "°"
	Percent         Unit = "%"
	Pixels          Unit = "px"
	Seconds         Unit = "s"
	Metres          Unit = "m"
	PerSecond       Unit = "/s"
	PixelsPerSecond Unit = "px/s"
	PixelsPerSquare Unit = "px/s²" // of acceleration: pixels a second, every second
)

// Spec says what a property is: it stands the same for a property of the catalogue and for a
// control.
type Spec struct {
	Key      string   `json:"key"`
	Name     string   `json:"name"`
	Group    string   `json:"group"`
	Type     Type     `json:"type"`
	Unit     Unit     `json:"unit"`
	Default  Value    `json:"default"`
	SoftMin  float64  `json:"softMin"` // range of a widget
	SoftMax  float64  `json:"softMax"`
	Min      float64  `json:"-"` // hard limits of every component; infinite where there is none
	Max      float64  `json:"-"`
	Step     float64  `json:"step"`
	Whole    bool     `json:"whole,omitempty"`
	Floored  bool     `json:"-"`                  // a whole number that holds until the next is reached: of a frame
	Options  []string `json:"options,omitempty"`  // of a choice, by number from 0
	ReadOnly bool     `json:"readOnly,omitempty"` // derived from other properties
	Kinds    []Kind   `json:"-"`
	// By is a choice of the same item that says whether the property matters, and For the options with which it does; empty: it
	// always does.
	By  string   `json:"by,omitempty"`
	For []string `json:"for,omitempty"`

	NoPins bool `json:"noPins,omitempty"` // it can be set, but not pinned

	parts []*Spec // each component with limits of its own; nil where all have the same
}

// The groups of the Card.
const (
	GroupPlace      = "Transform"
	groupShape      = "Shape"
	groupWords      = "Text"
	groupLook       = "Appearance"
	groupStroke     = "Stroke"
	groupGradient   = "Gradient"
	groupBend       = "Bend"
	groupLight      = "Light"
	groupCamera     = "Camera"
	groupZone       = "Zone"
	groupCopies     = "Copies"
	groupCopy       = "Each copy"
	groupPiece      = "Piece"
	groupBirth      = "Particles"
	groupOverLife   = "Over lifetime"
	GroupAttachment = "Parent"
	GroupControls   = "Controls"
	groupSound      = "Sound"
	groupTable      = "Table"
	groupRead       = "Read-only"
)

// The options of the choices of the catalogue, by number.
var (
	Fonts         = []string{"Fraunces Bold", "IBM Plex Sans Medium", "IBM Plex Mono Medium"}
	Alignments    = []string{"left", "centre", "right"}
	Gradients     = []string{"none", "linear", "radial"}
	Caps          = []string{"butt", "round", "square"}
	Joins         = []string{"mitre", "round", "bevel"}
	FlatAxes      = []string{"x", "y"}
	Axes          = []string{"x", "y", "z"}
	FixedEnds     = []string{"start", "middle", "end"}
	SourceShapes  = []string{"point", "line", "disc"}
	ZoneShapes    = []string{"sphere", "box", "band", "half-plane"}
	ZoneCurves    = []string{"linear", "ease in", "ease out", "ease in and out", "free"}
	ParticleLooks = []string{"round", "square", "star", "ring", "streak"}
)

// arranging says which arrangements a property of copies matters to.
func arranging(s *Spec, by ...string) *Spec {
	s.By, s.For = "copiesArrangement", by
	return s
}

// retimed marks a property that matters to copies that show a time of their own.
func retimed(s *Spec) *Spec {
	s.By, s.For = CopiesShow, Shows[OwnTime:]
	return s
}

// playing marks a property of pieces that matters while they run with the composition around them, and timed one that matters while
// they show a time of their own.
func playing(s *Spec) *Spec {
	s.By, s.For = PieceShow, Shows[:OwnTime]
	return s
}

func timed(s *Spec) *Spec {
	s.By, s.For = PieceShow, Shows[OwnTime:]
	return s
}

// free marks a property of zones that matters to a free curve.
func free(s *Spec) *Spec {
	s.By, s.For = "zoneCurve", []string{"free"}
	return s
}

var inf = math.Inf(1)

// number, angle, percent, colour, point, choice and toggle describe properties of the common sorts.

func number(key, name, group string, unit Unit, def, softMin, softMax, lo, hi, step float64, kinds []Kind) *Spec {
	return &Spec{Key: key, Name: name, Group: group, Type: Number, Unit: unit, Default: Num(def), SoftMin: softMin, SoftMax: softMax, Min: lo, Max: hi, Step: step, Kinds: kinds}
}

func angle(key, name, group string, def float64, kinds []Kind) *Spec {
	return number(key, name, group, Degrees, def, -180, 180, -inf, inf, 1, kinds)
}

func percent(key, name, group string, def float64, kinds []Kind) *Spec {
	return number(key, name, group, Percent, def, 0, 100, 0, 100, 1, kinds)
}

func whole(key, name, group string, def, softMax, lo, hi float64, kinds []Kind) *Spec {
	s := number(key, name, group, Plain, def, lo, softMax, lo, hi, 1, kinds)
	s.Whole = true
	return s
}

func floored(s *Spec) *Spec {
	s.Floored = true
	return s
}

func colour(key, name, group string, def Value, kinds []Kind) *Spec {
	return &Spec{Key: key, Name: name, Group: group, Type: Colour, Default: def, SoftMax: 1, Min: 0, Max: 1, Step: 0.01, Kinds: kinds}
}

func point(key, name, group string, unit Unit, def Value, softMin, softMax, lo, hi float64, kinds []Kind) *Spec {
	t := Point2
	if def.Len() == 3 {
		t = Point3
	}
	return &Spec{Key: key, Name: name, Group: group, Type: t, Unit: unit, Default: def, SoftMin: softMin, SoftMax: softMax, Min: lo, Max: hi, Step: 1, Kinds: kinds}
}

func choice(key, name, group string, def float64, options []string, kinds []Kind) *Spec {
	top := float64(len(options) - 1)
	return &Spec{Key: key, Name: name, Group: group, Type: Choice, Default: Num(def), SoftMax: top, Min: 0, Max: top, Step: 1, Options: options, Kinds: kinds}
}

func toggle(key, name, group string, on bool, kinds []Kind) *Spec {
	return &Spec{Key: key, Name: name, Group: group, Type: Switch, Default: On(on), SoftMax: 1, Min: 0, Max: 1, Step: 1, Kinds: kinds}
}

// readable is worked out and can only be read.
func readable(key, name string, t Type, unit Unit, kinds []Kind) *Spec {
	return &Spec{Key: key, Name: name, Group: groupRead, Type: t, Unit: unit, Default: NewValue(make([]float64, t.Size())), Min: -inf, Max: inf, Step: 1, ReadOnly: true, Kinds: kinds}
}

// heard is read off the loudness of a sound. It has a place in the column like what can be set, so that it can be looked at at any
// time for as little.
func heard(key string) *Spec {
	s := percent(key, key, groupSound, 0, sounds)
	s.ReadOnly = true
	return s
}

var (
	everything = of(Handle, Outlined, Pictured, Solid, Light, Sparks, Lens, Lane, Heard, Data, Staged)
	outlined   = of(Outlined)
	pictured   = of(Pictured)
	solids     = of(Solid)
	lights     = of(Light)
	emitters   = []Kind{Emitter}
	texts      = []Kind{TextItem}
	cameras    = []Kind{Camera}
	paths      = []Kind{PathItem}
	zones      = []Kind{Zone}
	copies     = []Kind{CopiesItem}
	lanes      = []Kind{Copy}
	pieces     = []Kind{Piece}
	sounds     = []Kind{SoundItem}
	tables     = []Kind{TableItem}
	sized      = []Kind{Rectangle, Ellipse, Polygon, Star, Picture, Flipbook}
	aimed      = []Kind{SpotLight, DirectionalLight, Camera}
	white      = RGBA(1, 1, 1, 1)
)

// Properties is the catalogue: every property that items have of their own accord, in the order
// of the Card.
var Properties = []*Spec{
	percent("volume", "volume", groupSound, 100, sounds),
	heard("loudness"), heard("lows"), heard("mids"), heard("highs"),

	number("row", "row", groupTable, Plain, 1, 1, 12, 1, MaxRows, 1, tables),

	{Key: "text", Name: "text", Group: groupWords, Type: Text, Default: Txt("Text"), Kinds: texts},
	choice("font", "font", groupWords, 0, Fonts, texts),
	number("fontSize", "font size", groupWords, Pixels, 96, 0, 300, 0, 20000, 1, texts),
	number("letterSpacing", "letter spacing", groupWords, Pixels, 0, -20, 100, -10000, 10000, 0.5, texts),
	number("lineHeight", "line height", groupWords, Percent, 120, 50, 250, 0, 10000, 1, texts),
	choice("alignment", "alignment", groupWords, 1, Alignments, texts),

	point("size", "size", groupShape, Pixels, Pt(200, 200), 0, 1000, 0, 100000, sized),
	point("size", "size", groupShape, Pixels, Pt(200, 200, 200), 0, 1000, 0, 100000, solids),
	number("cornerRadius", "corner radius", groupShape, Pixels, 0, 0, 100, 0, 100000, 1, []Kind{Rectangle}),
	whole("sides", "sides", groupShape, 6, 12, 3, 200, []Kind{Polygon}),
	whole("points", "points", groupShape, 5, 12, 2, 200, []Kind{Star}),
	percent("innerRadius", "inner radius", groupShape, 45, []Kind{Star}),
	floored(whole("frame", "frame number", groupShape, 1, 12, 1, 100000, append([]Kind{Flipbook}, solids...))),

	point("position", "position", GroupPlace, Pixels, Pt(0, 0, 0), -1000, 1000, -inf, inf, everything),
	angle("rotation", "rotation", GroupPlace, 0, everything),
	point("scale", "scale", GroupPlace, Percent, Pt(100, 100, 100), 0, 200, -inf, inf, everything),
	point("pivot", "pivot", GroupPlace, Pixels, Pt(0, 0, 0), -500, 500, -inf, inf, everything),
	angle("rotationX", "rotation x", GroupPlace, 0, everything),
	angle("rotationY", "rotation y", GroupPlace, 0, everything),

	colour("fill", "fill", groupLook, RGBA(0.85, 0.64, 0.3, 1), outlined),
	colour("colour", "colour", groupLook, RGBA(0.85, 0.64, 0.3, 1), solids),
	colour("tint", "tint", groupLook, RGBA(0.85, 0.64, 0.3, 1), pictured),
	percent("tintStrength", "tint strength", groupLook, 0, pictured),
	percent("opacity", "opacity", groupLook, 100, of(Outlined, Pictured, Solid, Sparks, Staged)),
	percent("opacity", "opacity", groupCopy, 100, lanes),
	colour("tint", "tint", groupCopy, RGBA(0.85, 0.64, 0.3, 1), lanes),
	percent("tintStrength", "tint strength", groupCopy, 0, lanes),
	number("copyLate", "delay", groupCopy, Seconds, 0, 0, 2, 0, 600, 0.04, lanes),
	readable(Stand, "stand", Point3, Pixels, lanes),
	readable(Heading, "heading", Number, Degrees, lanes),
	percent("roughness", "roughness", groupLook, 70, solids),
	toggle("lit", "receives light", groupLook, false, of(Outlined, Pictured)),
	toggle("lit", "receives light", groupLook, true, solids),

	choice("gradient", "gradient", groupGradient, 0, Gradients, outlined),
	colour("secondFill", "end colour", groupGradient, RGBA(0.24, 0.5, 0.47, 1), outlined),
	point("gradientFrom", "gradient from", groupGradient, Pixels, Pt(0, 100), -500, 500, -inf, inf, outlined),
	point("gradientTo", "gradient to", groupGradient, Pixels, Pt(0, -100), -500, 500, -inf, inf, outlined),
	number("gradientWidth", "gradient width", groupGradient, Percent, 100, 0, 200, 0, 100000, 1, outlined),

	colour("stroke", "stroke", groupStroke, RGBA(0.17, 0.15, 0.19, 1), outlined),
	number("strokeWidth", "stroke width", groupStroke, Pixels, 0, 0, 20, 0, 10000, 0.5, outlined),
	choice("cap", "cap", groupStroke, 0, Caps, outlined),
	choice("join", "join", groupStroke, 0, Joins, outlined),
	number("dash", "dash", groupStroke, Pixels, 0, 0, 100, 0, 100000, 1, outlined),
	number("gap", "gap", groupStroke, Pixels, 10, 0, 100, 0, 100000, 1, outlined),
	number("dashOffset", "dash offset", groupStroke, Pixels, 0, -100, 100, -inf, inf, 1, outlined),
	percent("trimStart", "trim start", groupStroke, 0, outlined),
	percent("trimEnd", "trim end", groupStroke, 100, outlined),

	angle("bend", "bend", groupBend, 0, of(Outlined, Solid)),
	choice("bendAxis", "bend axis", groupBend, 0, FlatAxes, outlined),
	choice("bendAxis", "bend axis", groupBend, 0, Axes, solids),
	choice("bendFixed", "fixed at", groupBend, 1, FixedEnds, of(Outlined, Solid)),
	percent("bendExtent", "bend extent", groupBend, 100, of(Outlined, Solid)),

	colour("colour", "colour", groupLight, RGBA(1, 0.93, 0.8, 1), lights),
	number("intensity", "intensity", groupLight, Percent, 100, 0, 300, 0, 100000, 1, lights),
	number("range", "range", groupLight, Pixels, 1000, 0, 3000, 0, 1000000, 10, []Kind{PointLight, SpotLight}),
	number("coneAngle", "cone angle", groupLight, Degrees, 40, 1, 170, 0, 179, 1, []Kind{SpotLight}),
	percent("coneSoftness", "cone softness", groupLight, 30, []Kind{SpotLight}),
	toggle("active", "active", groupCamera, true, cameras),
	number("lensAngle", "lens angle", groupCamera, Degrees, 40, 5, 120, 1, 170, 1, cameras),
	point("target", "target", GroupPlace, Pixels, Pt(0, 0, 0), -1000, 1000, -inf, inf, aimed),

	choice("zoneShape", "shape", groupZone, 0, ZoneShapes, zones),
	point("zoneSize", "size", groupZone, Pixels, Pt(400, 400, 400), 0, 2000, 0, 100000, zones),
	number("falloff", "falloff", groupZone, Pixels, 150, 0, 1000, 0, 100000, 1, zones),
	choice("zoneCurve", "curve", groupZone, 3, ZoneCurves, zones),
	free(number("curveBegin", "curve begin", groupZone, Percent, 0, 0, 100, -1000, 1000, 1, zones)),
	free(number("curveEnd", "curve end", groupZone, Percent, 100, 0, 100, -1000, 1000, 1, zones)),
	toggle("inverted", "inverted", groupZone, false, zones),
	toggle("flat", "ignore depth", groupZone, true, zones),

	choice(CopiesShow, "show", groupCopies, 0, Shows, copies),
	retimed(number(CopiesTime, "time", groupCopies, Seconds, 0, 0, 60, -1e6, 1e6, 0.04, copies)),
	choice("copiesArrangement", "arrangement", groupCopies, 0, Arrangements, copies),
	number("copiesNumber", "number", groupCopies, Plain, 8, 0, 50, 0, MaxCopies, 1, copies),
	toggle("copiesFade", "last one fades in", groupCopies, false, copies),
	arranging(point("copiesSpacing", "spacing", groupCopies, Pixels, Pt(120, 0, 0), -500, 500, -inf, inf, copies), "line", "grid"),
	arranging(point("rowSpacing", "row spacing", groupCopies, Pixels, Pt(0, -120, 0), -500, 500, -inf, inf, copies), "grid"),
	arranging(whole("copiesColumns", "columns", groupCopies, 4, 20, 1, MaxCopies, copies), "grid"),
	arranging(number("copiesRadius", "radius", groupCopies, Pixels, 300, 0, 1000, -inf, inf, 1, copies), "ring"),
	arranging(number("copiesStart", "start", groupCopies, Percent, 0, 0, 100, -inf, inf, 1, copies), "ring", "path"),
	arranging(number("copiesEnd", "end", groupCopies, Percent, 100, 0, 100, -inf, inf, 1, copies), "ring", "path"),
	arranging(toggle("copiesFacing", "align to path", groupCopies, true, copies), "ring", "path"),
	angle("copiesTurn", "rotation per copy", groupCopies, 0, copies),
	arranging(point("copiesArea", "area", groupCopies, Pixels, Pt(800, 500, 0), 0, 2000, 0, 100000, copies), "scattered"),
	arranging(whole("seed", "seed", groupCopies, 1, 100, 0, 1000000, copies), "scattered"),

	toggle("pieceDepth", "keeps its depth", groupPiece, true, pieces),
	choice(PieceShow, "show", groupPiece, 0, Shows, pieces),
	playing(number(PieceStart, "starts at", groupPiece, Seconds, 0, 0, 10, -1e6, 1e6, 0.04, pieces)),
	playing(number(PieceSpeed, "speed", groupPiece, Percent, 100, 0, 200, -100000, 100000, 1, pieces)),
	playing(choice(PieceEnds, "beyond its ends", groupPiece, 0, Ends, pieces)),
	timed(number(PieceTime, "time", groupPiece, Seconds, 0, 0, 60, -1e6, 1e6, 0.04, pieces)),

	number("rate", "rate", groupBirth, PerSecond, 40, 0, 500, 0, 100000, 1, emitters),
	number("life", "life", groupBirth, Seconds, 2, 0, 10, 0, 600, 0.1, emitters),
	number("speed", "speed", groupBirth, PixelsPerSecond, 160, 0, 1000, -100000, 100000, 1, emitters),
	angle("direction", "direction", groupBirth, 90, emitters),
	number("spread", "spread", groupBirth, Degrees, 40, 0, 360, 0, 360, 1, emitters),
	percent("variety", "variation", groupBirth, 30, emitters),
	number("gravity", "gravity", groupBirth, PixelsPerSquare, 120, -1000, 1000, -100000, 100000, 1, emitters),
	number("drag", "drag", groupBirth, Plain, 0, 0, 5, 0, 1000, 0.1, emitters),
	percent("inheritMotion", "inherited motion", groupBirth, 0, emitters),
	choice("source", "source", groupBirth, 0, SourceShapes, emitters),
	point("sourceSize", "source size", groupBirth, Pixels, Pt(200, 200), 0, 1000, 0, 100000, emitters),
	number("warmUp", "warm-up", groupBirth, Seconds, 0, 0, 10, 0, 60, 0.1, emitters),
	whole("seed", "seed", groupBirth, 1, 100, 0, 1000000, emitters),
	choice("particle", "particle", groupOverLife, 0, ParticleLooks, emitters),
	number("startSize", "start size", groupOverLife, Pixels, 10, 0, 100, 0, 10000, 0.5, emitters),
	number("endSize", "end size", groupOverLife, Pixels, 2, 0, 100, 0, 10000, 0.5, emitters),
	colour("startColour", "start colour", groupOverLife, RGBA(1, 0.85, 0.5, 1), emitters),
	colour("endColour", "end colour", groupOverLife, RGBA(0.9, 0.3, 0.2, 0), emitters),

	percent("attachWeight", "weight", GroupAttachment, 100, everything),
}

// CopiesNumber is how many copies an item shows, and CopiesFade whether the last of them fades in.
var CopiesNumber, CopiesFade = byKey[CopiesItem]["copiesNumber"], byKey[CopiesItem]["copiesFade"]

// Shapes reports whether what is drawn of an item has another shape where the property changes: its surface, and
// with it the line along that.
func (s *Spec) Shapes() bool {
	if _, world, vertex := VertexOf(s.Key); vertex {
		return !world
	}
	return slices.Contains([]string{groupShape, groupWords, groupBend, groupTable}, s.Group) && s.Key != "frame" && !s.ReadOnly
}

// Lines reports whether the line along an item has another shape where the property changes, and its surface has not.
func (s *Spec) Lines() bool {
	return slices.Contains([]string{"trimStart", "trimEnd", "dash", "gap", "dashOffset"}, s.Key)
}

// Readable lists what can be read of items besides their properties: derived from others, never
// set, never driven.
var Readable = []*Spec{
	readable("worldPosition", "world.position", Point3, Pixels, everything),
	readable("worldRotation", "world.rotation", Number, Degrees, everything),
	readable("worldScale", "world.scale", Point3, Percent, everything),
	readable("length", "length", Number, Pixels, paths),
	readable("verticesCount", "vertices.count", Number, Plain, append([]Kind{PathItem}, solids...)),
	readable("framesCount", "frames.count", Number, Plain, append([]Kind{Picture, Flipbook}, solids...)),
	readable("lettersCount", "letters.count", Number, Plain, texts),
	readable("rowsCount", "rows.count", Number, Plain, tables),
}

func arrange(list []*Spec) (map[Kind][]*Spec, map[Kind]map[string]*Spec) {
	byKind, byKey := map[Kind][]*Spec{}, map[Kind]map[string]*Spec{}
	for _, k := range Kinds {
		byKey[k.Kind] = map[string]*Spec{}
	}
	for _, s := range list {
		for _, k := range s.Kinds {
			byKind[k] = append(byKind[k], s)
			byKey[k][s.Key] = s
		}
	}
	return byKind, byKey
}

// byKind lists the properties of each kind, in the order of the catalogue; byKey finds them.
var (
	byKind, byKey                 = arrange(Properties)
	readableByKind, readableByKey = arrange(Readable)
)

// Of returns the properties that every item of the kind has; nil for a kind that does not exist.
func Of(kind Kind) []*Spec { return byKind[kind] }

// Described returns what the catalogue says of the key of a property, on the first kind of item that has it; nil for what is none of it,
// such as a control.
func Described(key string) *Spec {
	for _, list := range [][]*Spec{Properties, Readable} {
		for _, s := range list {
			if s.Key == key {
				return s
			}
		}
	}
	return nil
}

// ReadableOf returns what can be read of an item of the kind besides its properties and vertices.
func ReadableOf(kind Kind) []*Spec { return readableByKind[kind] }

// Spec returns what the property with the key is on this item: an entry of the catalogue, one
// made from a control or a vertex, or something derived; nil where the item has no such property.
func (i *Item) Spec(key string) *Spec {
	if s := byKey[i.Kind][key]; s != nil {
		return s.Within(i.States[key])
	}
	if c := i.Control(ID(key)); c != nil {
		return c.Spec().Within(i.States[key])
	}
	if h, ok := i.HandedAs(key); ok {
		return h.Spec().Within(i.States[key])
	}
	if s := readableByKey[i.Kind][key]; s != nil {
		return s
	}
	if s := i.weightSpec(key); s != nil {
		return s.Within(i.States[key])
	}
	if s := i.vertexSpec(key); s != nil {
		return s.Within(i.States[key])
	}
	if s := i.columnSpec(key); s != nil {
		return s
	}
	return nil
}

// Limited reports whether the designer set limits of his own on any property of the item.
func (i *Item) Limited() bool {
	for _, s := range i.States {
		if s.Limited() {
			return true
		}
	}
	return false
}

// Readable returns all that can be read of the item but for its vertices: what can be set, then what is derived. The caller may
// append to it.
func (i *Item) Readable() []*Spec {
	return slices.Concat(i.Specs(), i.ColumnSpecs(), ReadableOf(i.Kind))
}

// Specs returns every property of the item that can be set, but for vertices: those of its kind,
// then its controls.
func (i *Item) Specs() []*Spec {
	own := byKind[i.Kind]
	limited := i.Limited()
	added := i.Added()
	if len(added) == 0 && !limited {
		return own
	}
	specs := append(append(make([]*Spec, 0, len(own)+len(added)), own...), added...)
	if limited {
		for k, s := range specs {
			specs[k] = s.Within(i.States[s.Key])
		}
	}
	return specs
}

// tags letters the jacks of types; numbers are lettered by their unit.
var tags = map[Type]string{Point2: "xy", Point3: "xyz", Colour: "rgb", Switch: "on", Text: "txt", Choice: "opt"}

// Tag returns the letters on the property's jack.
func (s *Spec) Tag() string {
	if tag, ok := tags[s.Type]; ok {
		return tag
	}
	switch s.Unit {
	case Degrees, Percent:
		return string(s.Unit)
	case Seconds:
		return "s"
	}
	return "n"
}

// Part returns the property with the limits of its component k.
func (s *Spec) Part(k int) *Spec {
	if k < len(s.parts) {
		return s.parts[k]
	}
	return s
}

// Held returns a value with each component within its limits.
func (s *Spec) Held(v Value) Value {
	if v.IsText() {
		return v
	}
	for k := range v.Len() {
		v = v.With(k, s.Part(k).Limit(v.At(k)))
	}
	return v
}

// Limits reports whether Limit makes something else of any number.
func (s *Spec) Limits() bool {
	return s.Type != Text && (s.Jumps() || s.Min > -inf || s.Max < inf)
}

// Limit holds a number within the hard limits of the property; a whole number or a choice is
// rounded to the nearest, halves away from 0, a frame number down; a switch is on from 0.5.
func (s *Spec) Limit(x float64) float64 {
	switch s.Type {
	case Switch:
		if x >= 0.5 {
			return 1
		}
		return 0
	case Text:
		return x
	}
	switch {
	case s.Floored:
		x = math.Floor(x)
	case s.Jumps():
		x = math.Round(x)
	}
	if x < s.Min {
		return s.Min
	}
	if x > s.Max {
		return s.Max
	}
	return x
}

// Jumps reports whether the property only ever goes from one value to the next without anything
// in between: it holds from pin to pin.
func (s *Spec) Jumps() bool { return s.Whole || s.Type.Jumps() }
