package scene

import (
	"regexp"
	"strings"
)

// Format is the version of what projects, and the operations on them, say. Since version 2 gain and offset of maps and formulas
// count; since version 3 mix blends colours as they are encoded, and mixlight as their light, particles are born at the pivot of
// their emitter, and the unit of a formula is that of all the values that its result is one of.
const Format = 3

// Upgrade brings a project that was saved in an older format to what is meant by it now.
func (p *Project) Upgrade(format int) {
	for _, c := range p.Compositions {
		if c == nil {
			continue
		}
		upgradeAll(c.Items, c.RosterLinks, c.Graphs, format)
	}
	for _, r := range p.Recipes {
		r.Upgrade(format)
	}
	for _, b := range p.Befores {
		if b != nil && b.Value != nil {
			upgradeAll(b.Value.Items, b.Value.RosterLinks, b.Value.Graphs, format)
		}
	}
}

// Upgrade is that of a project, for a recipe.
func (r *SavedRecipe) Upgrade(format int) {
	if r == nil {
		return
	}
	upgradeAll(r.Items, r.Rows, r.Graphs, format)
}

func upgradeAll(items []*Item, rows []*RosterLink, graphs []*Graph, format int) {
	for _, item := range items {
		item.Upgrade(format)
	}
	for _, s := range rows {
		s.Upgrade(format)
	}
	for _, g := range graphs {
		g.Upgrade(format)
	}
}

// Upgrade is that of a project, for an item.
func (i *Item) Upgrade(format int) {
	if i == nil {
		return
	}
	for key, s := range i.States {
		s.upgrade(format, i.Spec(key))
	}
	if format < 3 && i.Kind == Emitter {
		i.bornAtOrigin()
	}
}

// bornAtOrigin keeps particles where they were born before format 3, which was the origin of the emitter, not its pivot: where
// the emitter is neither turned nor scaled, its place is moved in place of the pivot.
func (i *Item) bornAtOrigin() {
	pivot, place := i.States["pivot"], i.State("position")
	if pivot == nil || pivot.Own.Absent() || len(pivot.Pins)+len(pivot.Links)+len(place.Links) > 0 {
		return
	}
	for _, key := range []string{"rotation", "rotationX", "rotationY", "scale"} {
		if i.States[key] != nil {
			return
		}
	}
	by, spec := pivot.Own, i.Spec("position")
	less := func(v Value) Value {
		for k := range v.Len() {
			v = v.With(k, v.At(k)-by.At(k))
		}
		return v
	}
	moved := i.Edit("position")
	moved.Own = less(moved.OwnOr(spec))
	for k := range moved.Pins {
		moved.Pins[k].Value = less(moved.Pins[k].Value)
	}
	pivot.Own = Value{}
	i.Tidy("pivot")
}

// Upgrade is that of a project, for a property.
func (s *State) Upgrade(format int) { s.upgrade(format, nil) }

func (s *State) upgrade(format int, spec *Spec) {
	if s == nil {
		return
	}
	for _, l := range s.Links {
		l.upgrade(format, spec)
	}
}

// Upgrade is that of a project, for a link on a row.
func (s *RosterLink) Upgrade(format int) {
	if s != nil {
		s.Link.upgrade(format, s.spec())
	}
}

// Upgrade is that of a project, for a link.
func (l *Link) Upgrade(format int) { l.upgrade(format, nil) }

// upgrade is Upgrade for a link on a property; nil where it is not known on which.
func (l *Link) upgrade(format int, spec *Spec) {
	if l == nil {
		return
	}
	if format < 2 && l.Kind != Follow {
		l.Gain, l.Offset = 1, 0
	}
	if format < 3 && !(spec != nil && spec.Type != Colour && !colourful.MatchString(l.Formula)) {
		l.Formula, l.Draft = litMix(l.Formula), litMix(l.Draft)
	}
	if format < 3 && l.Operation == Multiply { // where the unit says whether hundredths are meant
		l.FirstUnit = choosing.MatchString(l.Formula)
	}
}

// choosing finds what a unit was taken of the first value of.
var choosing = regexp.MustCompile(`\b(if|pick|min|max|clamp)\s*\(`)

// Upgrade is that of a project, for a graph.
func (g *Graph) Upgrade(format int) {
	if g == nil {
		return
	}
	for _, s := range g.Slips {
		s.Upgrade(format)
	}
}

// Upgrade is that of a project, for a slip of a graph.
func (s *Slip) Upgrade(format int) {
	if s == nil || format >= 3 {
		return
	}
	switch {
	case s.Kind == ApplySlip && s.Text == "mix":
		s.Text = "mixlight"
	case s.Kind == FormulaSlip:
		s.Text = litMix(s.Text)
	}
	for port, text := range s.Fields {
		s.Fields[port] = litMix(text)
	}
}

// formulaParts finds, in this order, what of a formula is no code: comments, texts and references; and calls of mix.
var formulaParts = regexp.MustCompile(`//[^\n]*|"[^"\n]*"|\{[^}]*\}|[\pL_][\pL\pN_]*\s*\(`)

// colourful finds what may be a colour in the formula of a property that is none: one that is written down or made, and any
// property that is read.
var colourful = regexp.MustCompile(`#|\b(rgb|hsl)\s*\(|\{[^}]*:`)

// litMix writes mixlight for mix: what mix did before there were both. Of anything but colours they are the same.
func litMix(formula string) string {
	if !strings.Contains(formula, "mix") {
		return formula
	}
	return formulaParts.ReplaceAllStringFunc(formula, func(part string) string {
		if name := strings.TrimRight(part, "( \t\r\n"); name == "mix" {
			return "mixlight" + part[len(name):]
		}
		return part
	})
}
