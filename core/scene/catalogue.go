package scene

import "math"

// Unit is what a number is measured in.
type Unit string

// The units. There are no radians; a scale of 100 percent is whole.
const (
	Plain   Unit = ""
	Degrees Unit = "°"
	Percent Unit = "%"
	Pixels  Unit = "px"
	Seconds Unit = "s"
	Metres  Unit = "m"
)

// Kind is what an item is.
type Kind string

// The kinds of items.
const (
	Null      Kind = "null"
	TextItem  Kind = "text"
	Rectangle Kind = "rectangle"
	Ellipse   Kind = "ellipse"
)

// Spec says what a property is: it stands the same for a property of the catalogue and for a
// control.
type Spec struct {
	Key     string  `json:"key"`
	Name    string  `json:"name"`
	Group   string  `json:"group"`
	Type    Type    `json:"type"`
	Unit    Unit    `json:"unit"`
	Default Value   `json:"default"`
	SoftMin float64 `json:"softMin"` // range of a widget
	SoftMax float64 `json:"softMax"`
	Min     float64 `json:"-"` // hard limits of every component; infinite where there is none
	Max     float64 `json:"-"`
	Step    float64 `json:"step"`
	Whole   bool    `json:"whole,omitempty"`
	Kinds   []Kind  `json:"-"`
}

// The groups of the Card.
const (
	groupPlace   = "Place"
	groupShape   = "Shape"
	groupWords   = "Words"
	groupLook    = "Look"
	groupControl = "Controls"
)

var (
	everything = []Kind{Null, TextItem, Rectangle, Ellipse}
	drawn      = []Kind{TextItem, Rectangle, Ellipse}
	sized      = []Kind{Rectangle, Ellipse}
)

var inf = math.Inf(1)

// Properties is the catalogue: every property that items have of their own accord, in the order
// of the Card.
var Properties = []*Spec{
	{Key: "text", Name: "text", Group: groupWords, Type: Text, Default: Txt("Text"), Kinds: []Kind{TextItem}},
	{Key: "fontSize", Name: "font size", Group: groupWords, Type: Number, Unit: Pixels, Default: Num(96), SoftMin: 0, SoftMax: 300, Min: 0, Max: 20000, Step: 1, Kinds: []Kind{TextItem}},
	{Key: "size", Name: "size", Group: groupShape, Type: Point2, Unit: Pixels, Default: Pt(200, 200), SoftMin: 0, SoftMax: 1000, Min: 0, Max: 100000, Step: 1, Kinds: sized},
	{Key: "cornerRadius", Name: "corner radius", Group: groupShape, Type: Number, Unit: Pixels, Default: Num(0), SoftMin: 0, SoftMax: 100, Min: 0, Max: 100000, Step: 1, Kinds: []Kind{Rectangle}},
	{Key: "position", Name: "position", Group: groupPlace, Type: Point3, Unit: Pixels, Default: Pt(0, 0, 0), SoftMin: -1000, SoftMax: 1000, Min: -inf, Max: inf, Step: 1, Kinds: everything},
	{Key: "rotation", Name: "rotation", Group: groupPlace, Type: Number, Unit: Degrees, Default: Num(0), SoftMin: -180, SoftMax: 180, Min: -inf, Max: inf, Step: 1, Kinds: everything},
	{Key: "scale", Name: "scale", Group: groupPlace, Type: Point3, Unit: Percent, Default: Pt(100, 100, 100), SoftMin: 0, SoftMax: 200, Min: -inf, Max: inf, Step: 1, Kinds: everything},
	{Key: "pivot", Name: "pivot", Group: groupPlace, Type: Point3, Unit: Pixels, Default: Pt(0, 0, 0), SoftMin: -500, SoftMax: 500, Min: -inf, Max: inf, Step: 1, Kinds: everything},
	{Key: "rotationX", Name: "rotation x", Group: groupPlace, Type: Number, Unit: Degrees, Default: Num(0), SoftMin: -180, SoftMax: 180, Min: -inf, Max: inf, Step: 1, Kinds: everything},
	{Key: "rotationY", Name: "rotation y", Group: groupPlace, Type: Number, Unit: Degrees, Default: Num(0), SoftMin: -180, SoftMax: 180, Min: -inf, Max: inf, Step: 1, Kinds: everything},
	{Key: "fill", Name: "fill", Group: groupLook, Type: Colour, Default: RGBA(0.85, 0.64, 0.3, 1), SoftMax: 1, Min: 0, Max: 1, Step: 0.01, Kinds: drawn},
	{Key: "opacity", Name: "opacity", Group: groupLook, Type: Number, Unit: Percent, Default: Num(100), SoftMin: 0, SoftMax: 100, Min: 0, Max: 100, Step: 1, Kinds: drawn},
	{Key: "stroke", Name: "stroke", Group: groupLook, Type: Colour, Default: RGBA(0.17, 0.15, 0.19, 1), SoftMax: 1, Min: 0, Max: 1, Step: 0.01, Kinds: drawn},
	{Key: "strokeWidth", Name: "stroke width", Group: groupLook, Type: Number, Unit: Pixels, Default: Num(0), SoftMin: 0, SoftMax: 20, Min: 0, Max: 10000, Step: 0.5, Kinds: drawn},
}

// byKind lists the properties of each kind, in the order of the catalogue.
var byKind = func() map[Kind][]*Spec {
	m := map[Kind][]*Spec{}
	for _, s := range Properties {
		for _, k := range s.Kinds {
			m[k] = append(m[k], s)
		}
	}
	return m
}()

// Kinds lists every kind of item with its name in sentences, in the order of the menus.
var Kinds = []struct {
	Kind Kind   `json:"kind"`
	Name string `json:"name"`
}{
	{Null, "null"}, {TextItem, "text"}, {Rectangle, "rectangle"}, {Ellipse, "ellipse"},
}

// Of returns the properties that every item of the kind has; nil for a kind that does not exist.
func Of(kind Kind) []*Spec { return byKind[kind] }

// Drawn reports whether items of the kind show in the picture.
func (k Kind) Drawn() bool {
	for _, d := range drawn {
		if k == d {
			return true
		}
	}
	return false
}

// Spec returns what the property with the key is on this item: an entry of the catalogue or one
// made from a control; nil where the item has no such property.
func (i *Item) Spec(key string) *Spec {
	for _, s := range byKind[i.Kind] {
		if s.Key == key {
			return s
		}
	}
	if c := i.Control(ID(key)); c != nil {
		return c.Spec()
	}
	return nil
}

// Specs returns every property of the item: those of its kind, then its controls.
func (i *Item) Specs() []*Spec {
	own := byKind[i.Kind]
	if len(i.Controls) == 0 {
		return own
	}
	specs := append(make([]*Spec, 0, len(own)+len(i.Controls)), own...)
	for _, c := range i.Controls {
		specs = append(specs, c.Spec())
	}
	return specs
}

// controlTypes holds what each kind of control is when nothing else is said: its type and unit.
var controlTypes = map[ControlKind]Spec{
	Slider:        {Type: Number, Step: 1},
	AngleControl:  {Type: Number, Unit: Degrees, Step: 1},
	ColourControl: {Type: Colour, Step: 0.01},
	PointControl:  {Type: Point2, Unit: Pixels, Step: 1},
	SwitchControl: {Type: Switch, Step: 1},
}

// Spec returns what the control is as a property.
func (c *Control) Spec() *Spec {
	s := controlTypes[c.Kind]
	s.Key, s.Name, s.Group = string(c.ID), c.Name, groupControl
	s.Default, s.SoftMin, s.SoftMax, s.Whole = c.Default, c.SoftMin, c.SoftMax, c.Whole
	s.Min, s.Max = -inf, inf
	switch c.Kind {
	case Slider:
		s.Unit = c.Unit
		if span := c.SoftMax - c.SoftMin; !c.Whole && span > 0 && span <= 20 {
			s.Step = 0.1
		}
	case PointControl:
		if c.Depth {
			s.Type = Point3
		}
	case ColourControl, SwitchControl:
		s.Min, s.Max, s.SoftMin, s.SoftMax = 0, 1, 0, 1
	}
	if c.Min != nil {
		s.Min = *c.Min
	}
	if c.Max != nil {
		s.Max = *c.Max
	}
	return &s
}

// tags letters the jacks of types; numbers are lettered by their unit.
var tags = map[Type]string{Point2: "xy", Point3: "xyz", Colour: "rgb", Switch: "on", Text: "txt"}

// Tag returns the letters on the property's jack.
func (s *Spec) Tag() string {
	if tag, ok := tags[s.Type]; ok {
		return tag
	}
	switch s.Unit {
	case Degrees, Percent:
		return string(s.Unit)
	case Seconds:
		return "t"
	}
	return "n"
}

// Limit holds a number within the hard limits of the property; a whole number is rounded to the
// nearest, a switch is on from 0.5.
func (s *Spec) Limit(x float64) float64 {
	if s.Whole {
		x = math.Floor(x + 0.5)
	}
	if s.Type == Switch {
		if x >= 0.5 {
			return 1
		}
		return 0
	}
	if s.Type == Text {
		return x
	}
	if x < s.Min {
		return s.Min
	}
	if x > s.Max {
		return s.Max
	}
	return x
}
