package svg

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"wunderkammer/core/format/brought"
	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

// Drawing is what an SVG file comes to.
type Drawing struct {
	// Items are the drawing's, in the order of a tree: groups are nulls, before what stands in them;
	// of two in one group, the first is in front. The drawing's middle is the origin.
	Items []*scene.Item
	// Missed says what was not understood, with how often it occurs.
	Missed []string
}

// reader turns elements into items.
type reader struct {
	root  *element
	ids   map[string]*element
	rules []rule
	// bySelector holds where in rules those of a selector stand.
	bySelector map[string][]int
	newID      func() scene.ID
	out        []*scene.Item
	brought.Missed
	uses int
	// What was read already, repetitions counted: elements, bytes of what they are drawn from and of rules that
	// were applied to them, letters.
	visited, drawn, styled, letters int
	using                           int // how many repetitions it is within
}

// Read turns an SVG file into items that keep its names and its grouping. What is not understood is
// listed, and the rest is read.
func Read(data []byte, newID func() scene.ID) (*Drawing, error) {
	root, err := parse(data)
	if err != nil {
		return nil, err
	}
	r := &reader{root: root, ids: map[string]*element{}, newID: newID}
	root.walk(func(e *element) {
		if id := e.get("id"); id != "" && r.ids[id] == nil {
			r.ids[id] = e
		}
		if e.name == "style" {
			r.sheet(e.text.String())
		}
	})
	width, height, view := viewport(root)
	// From here on y goes up, and the origin is in the middle.
	r.children(root, "", translate(-width/2, height/2).mul(view.flipped()), r.style(root, nil), 1)
	d := &Drawing{Items: r.out, Missed: r.List()}
	if len(d.Items) == 0 {
		return nil, fmt.Errorf("nothing in the drawing can be shown%s", because(d.Missed))
	}
	return d, nil
}

func because(missed []string) string {
	if len(missed) == 0 {
		return ""
	}
	return "; not understood: " + strings.Join(missed, ", ")
}

// viewport returns the size of a drawing in pixels, and the map from its coordinates.
func viewport(e *element) (width, height float64, view matrix) {
	box := numbers(e.get("viewBox"))
	width, height = measure(e.get("width"), 0), measure(e.get("height"), 0)
	if len(box) < 4 || box[2] <= 0 || box[3] <= 0 {
		if width <= 0 {
			width = 300
		}
		if height <= 0 {
			height = 150
		}
		return width, height, identity
	}
	switch {
	case width <= 0 && height <= 0:
		width, height = box[2], box[3]
	case width <= 0:
		width = height * box[2] / box[3]
	case height <= 0:
		height = width * box[3] / box[2]
	}
	sx, sy := width/box[2], height/box[3]
	align := e.get("preserveAspectRatio")
	if !strings.HasPrefix(align, "none") {
		k := math.Min(sx, sy)
		if strings.HasSuffix(align, "slice") {
			k = math.Max(sx, sy)
		}
		fx, fy := 0.5, 0.5
		for name, f := range map[string]float64{"Min": 0, "Max": 1} {
			if strings.Contains(align, "x"+name) {
				fx = f
			}
			if strings.Contains(align, "Y"+name) {
				fy = f
			}
		}
		return width, height, translate(float64((width-float64(k*box[2]))*fx), float64((height-float64(k*box[3]))*fy)).mul(matrix{a: k, d: k}).mul(translate(-box[0], -box[1]))
	}
	return width, height, matrix{a: sx, d: sy}.mul(translate(-box[0], -box[1]))
}

// lengths are the units of CSS in pixels.
var lengths = map[string]float64{"px": 1, "": 1, "pt": 4.0 / 3, "pc": 16, "in": 96, "cm": 96 / 2.54, "mm": 96 / 25.4, "em": 16, "ex": 8, "rem": 16}

// measure reads a length; whole is what a percentage is of, and 0 where none can be.
func measure(s string, whole float64) float64 {
	sc := scanner{s: s}
	x, ok := sc.number()
	if !ok {
		return 0
	}
	unit := strings.TrimSpace(s[sc.at:])
	if unit == "%" {
		return x / 100 * whole
	}
	return x * lengths[unit]
}

// skipped elements are looked at where something refers to them, or say nothing of the picture.
var skipped = []string{
	"defs", "style", "title", "desc", "metadata", "linearGradient", "radialGradient", "clipPath", "mask", "pattern", "marker", "symbol", "filter", "#text", "namedview",
}

// children reads what stands in an element, and returns the box around it. m leads from its
// coordinates, with y turned up, to those of the group's item, or of the composition.
func (r *reader) children(e *element, parent scene.ID, m matrix, s style, opacity float64) extent {
	box := nowhere
	for _, c := range slices.Backward(e.children) { // what comes last in the file is in front
		box = box.with(r.element(c, parent, m, s, opacity))
	}
	return box
}

func (r *reader) element(e *element, parent scene.ID, m matrix, outer style, opacity float64) extent {
	if slices.Contains(skipped, e.name) {
		return nowhere
	}
	if r.visited++; r.visited > maxVisited || r.drawn > maxDrawn {
		r.Miss("repetitions beyond the size that can be kept")
		return nowhere
	}
	if r.using > 0 {
		r.drawn += len(e.attrs["d"]) + len(e.attrs["points"])
	}
	s := r.style(e, outer)
	if s["display"] == "none" {
		return nowhere
	}
	if t := e.get("transform"); t != "" {
		own, ok := parseTransform(t)
		if !ok {
			r.Miss("an invalid transform")
		}
		m = m.mul(own.flipped())
	}
	for _, what := range []string{"clip-path", "mask", "filter"} {
		if v := s[what]; v != "" && v != "none" {
			r.Miss("a " + strings.ReplaceAll(what, "-", " "))
		}
	}
	if v, ok := s["opacity"]; ok {
		share := first(numbers(v))
		if strings.HasSuffix(v, "%") {
			share /= 100
		}
		opacity *= num.Clamp(share, 0, 1)
	}
	switch e.name {
	case "g", "a", "switch":
		return r.group(e, parent, m, s, opacity)
	case "svg":
		_, _, view := viewport(e)
		return r.group(e, parent, m.mul(translate(measure(e.get("x"), 0), -measure(e.get("y"), 0))).mul(view.flipped()), s, opacity)
	case "use":
		return r.use(e, parent, m, s, opacity)
	case "text":
		return r.words(e, parent, m, s, opacity)
	}
	if contours, ok := r.contours(e); ok {
		return r.shape(e, parent, m, s, opacity, contours)
	}
	r.Miss(missedNames(e.name))
	return nowhere
}

// missedNames says what an element that is not understood is.
func missedNames(name string) string {
	switch name {
	case "script":
		return "a script"
	case "image":
		return "a picture embedded in the drawing"
	case "foreignObject":
		return "content of another kind"
	case "animate", "animateTransform", "animateMotion", "set", "animateColor":
		return "an animation"
	}
	return "an element <" + clip(name) + ">"
}

// group makes a null of a group. What its transform holds beyond place, rotation and scale is passed
// on to what stands in it. Its pivot is the middle of that.
func (r *reader) group(e *element, parent scene.ID, m matrix, s style, opacity float64) extent {
	before := len(r.out)
	null := &scene.Item{ID: r.newID(), Name: nameOf(e, "Group"), Kind: scene.Null, Parent: parent}
	r.out = append(r.out, null)
	at := len(r.out)
	taken, rest := place(null, m)
	inside := r.children(e, null.ID, rest, s, opacity)
	if len(r.out) == at { // an empty group is nothing
		r.out = r.out[:before]
		return nowhere
	}
	if x, y := inside.middle(); x != 0 || y != 0 {
		px, py := taken.at(x, y)
		null.Edit("pivot").Own, null.Edit("position").Own = scene.Pt(brought.Tidy(x), brought.Tidy(y), 0), scene.Pt(brought.Tidy(px), brought.Tidy(py), 0)
	}
	return inside.through(taken)
}

// extent is a box in an item's own space; empty where its left is above its right.
type extent struct{ left, bottom, right, top float64 }

var nowhere = extent{math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)}

func (x extent) with(y extent) extent {
	return extent{math.Min(x.left, y.left), math.Min(x.bottom, y.bottom), math.Max(x.right, y.right), math.Max(x.top, y.top)}
}

func (x extent) middle() (float64, float64) { return (x.left + x.right) / 2, (x.bottom + x.top) / 2 }

// through returns the box around the box as a map shows it.
func (x extent) through(m matrix) extent {
	if x.left > x.right {
		return x
	}
	out := nowhere
	for _, c := range [][2]float64{{x.left, x.bottom}, {x.right, x.bottom}, {x.left, x.top}, {x.right, x.top}} {
		px, py := m.at(c[0], c[1])
		out = out.with(extent{px, py, px, py})
	}
	return out
}

// place sets position, rotation and scale of an item from a map, and returns the map that they make,
// and what is left to be done before it.
func place(item *scene.Item, m matrix) (own, rest matrix) {
	x, y, degrees, sx, sy, _ := m.parts()
	set := func(key string, v scene.Value) {
		if v != item.Spec(key).Default {
			item.Edit(key).Own = v
		}
	}
	if sx == 0 || sy == 0 {
		degrees, sx, sy = 0, 1, 1
	}
	set("position", scene.Pt(brought.Tidy(x), brought.Tidy(y), 0))
	set("rotation", scene.Num(brought.Tidy(degrees)))
	set("scale", scene.Pt(brought.Tidy(sx*100), brought.Tidy(sy*100), 100))
	own = translate(brought.Tidy(x), brought.Tidy(y)).mul(rotate(brought.Tidy(degrees))).mul(matrix{a: brought.Tidy(sx*100) / 100, d: brought.Tidy(sy*100) / 100})
	back, ok := own.inverse()
	if !ok {
		return own, identity
	}
	return own, back.mul(m)
}

// nameOf returns what the file calls an element.
func nameOf(e *element, kind string) string {
	name := e.get("label")
	for _, c := range e.children {
		if c.name == "title" && name == "" {
			name = strings.TrimSpace(c.text.String())
		}
	}
	if name == "" {
		name = e.get("id")
	}
	if name == "" {
		name = kind
	}
	return brought.Named(name, kind)
}

// Bounds on what repetitions make of a drawing, so that a few elements that repeat each other cannot fill the memory.
const (
	maxUses    = 2000
	maxVisited = 3 * MaxElements
	maxDrawn   = 4 << 20 // bytes of path data in repetitions
)

func (r *reader) use(e *element, parent scene.ID, m matrix, s style, opacity float64) extent {
	href := e.get("href")
	target := r.ids[strings.TrimPrefix(href, "#")]
	if !strings.HasPrefix(href, "#") {
		r.Miss("a reference to something outside of the file")
		return nowhere
	}
	if target == nil {
		r.Miss("a reference to something that is not in the file")
		return nowhere
	}
	for up := e; up != nil; up = up.parent {
		if up == target {
			r.Miss("a reference to itself")
			return nowhere
		}
	}
	if r.uses++; r.uses > maxUses || len(r.out) > MaxElements {
		r.Miss("a repetition beyond the first " + fmt.Sprint(maxUses))
		return nowhere
	}
	r.using++
	defer func() { r.using-- }()
	m = m.mul(translate(measure(e.get("x"), 0), -measure(e.get("y"), 0)))
	group := &element{name: "g", attrs: map[string]string{"id": nameOf(e, nameOf(target, "Use"))}, parent: e}
	if target.name == "symbol" || target.name == "svg" {
		size := &element{name: "svg", attrs: map[string]string{"viewBox": target.get("viewBox"), "preserveAspectRatio": target.get("preserveAspectRatio")}, children: target.children, parent: e}
		for _, key := range []string{"width", "height"} {
			if size.attrs[key] = e.get(key); size.attrs[key] == "" {
				size.attrs[key] = target.get(key)
			}
		}
		_, _, view := viewport(size)
		group.children = target.children
		return r.group(group, parent, m.mul(view.flipped()), r.style(target, s), opacity)
	}
	group.children = []*element{{name: target.name, attrs: target.attrs, children: target.children, parent: e}}
	return r.group(group, parent, m, s, opacity)
}
