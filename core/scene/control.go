package scene

// ControlKind is a kind of control: what it is when nothing else is said, and how one begins.
type ControlKind struct {
	Kind Widget `json:"kind"`
	Name string `json:"name"`
	Type Type   `json:"type"`
	Unit Unit   `json:"unit,omitempty"` // that it always has
	// Begins is how a new one begins: its value, its range, its options.
	Begins Control `json:"begins" ts:"part"`

	step float64
}

// ControlKinds lists the kinds of controls, as they are offered.
var ControlKinds = []*ControlKind{
	{Fader, "Fader", Number, "", Control{SoftMax: 100, Default: Num(0)}, 1},
	{DialWidget, "Dial", Number, Degrees, Control{SoftMin: -180, SoftMax: 180, Default: Num(0)}, 1},
	{ColourWidget, "Colour", Colour, "", Control{Default: RGBA(0.85, 0.64, 0.3, 1)}, 0.01},
	{PointWidget, "Point", Point2, Pixels, Control{SoftMin: -500, SoftMax: 500, Default: Pt(0, 0)}, 1},
	{SwitchWidget, "Switch", Switch, "", Control{Default: On(true)}, 1},
	{ChoiceWidget, "Choice", Choice, "", Control{Options: []string{"Option 1", "Option 2"}, Default: Num(0)}, 1},
	{TextWidget, "Text", Text, "", Control{Default: Txt("Text")}, 1},
}

func init() {
	for _, k := range ControlKinds {
		k.Begins.Kind = k.Kind
	}
}

// Info returns what kind of control a widget is; nil for what is none.
func (w Widget) Info() *ControlKind {
	for _, k := range ControlKinds {
		if k.Kind == w {
			return k
		}
	}
	return nil
}

// WidgetFor returns the kind of control that a property of a type is set by.
func WidgetFor(t Type) (Widget, bool) {
	if t == Point3 {
		t = Point2
	}
	for _, k := range ControlKinds {
		if k.Type == t {
			return k.Kind, true
		}
	}
	return "", false
}

// Spec returns the control as a property of its item: its key is the id of the control, its soft range the range of its fader.
func (c *Control) Spec() *Spec {
	var s Spec
	if k := c.Kind.Info(); k != nil {
		s.Type, s.Unit, s.Step = k.Type, k.Unit, k.step
	}
	s.Key, s.Name, s.Group = string(c.ID), c.Name, GroupControls
	s.Default, s.SoftMin, s.SoftMax, s.Whole = c.Default, c.SoftMin, c.SoftMax, c.Whole
	s.Min, s.Max = -inf, inf
	switch c.Kind {
	case Fader:
		s.Unit = c.Unit
		if span := c.SoftMax - c.SoftMin; !c.Whole && span > 0 && span <= 20 {
			s.Step = 0.1
		}
	case PointWidget:
		if c.Depth {
			s.Type = Point3
		}
	case ChoiceWidget:
		s.Options = c.Options
		s.Min, s.Max, s.SoftMin, s.SoftMax = 0, float64(len(c.Options)-1), 0, float64(len(c.Options)-1)
	case ColourWidget, SwitchWidget:
		s.Min, s.Max, s.SoftMin, s.SoftMax = 0, 1, 0, 1
	}
	if c.Step > 0 {
		s.Step = c.Step
	}
	if c.Min != nil {
		s.Min = *c.Min
	}
	if c.Max != nil {
		s.Max = *c.Max
	}
	return &s
}
