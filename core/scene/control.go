package scene

// controlTypes holds what each kind of control is when nothing else is said: its type and unit.
var controlTypes = map[Widget]Spec{
	Fader:        {Type: Number, Step: 1},
	DialWidget:   {Type: Number, Unit: Degrees, Step: 1},
	ColourWidget: {Type: Colour, Step: 0.01},
	PointWidget:  {Type: Point2, Unit: Pixels, Step: 1},
	SwitchWidget: {Type: Switch, Step: 1},
	ChoiceWidget: {Type: Choice, Step: 1},
	TextWidget:   {Type: Text, Step: 1},
}

// Spec returns the control as a property of its item: its key is the id of the control, its soft range the range of its fader.
func (c *Control) Spec() *Spec {
	s := controlTypes[c.Kind]
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
