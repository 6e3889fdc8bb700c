package svg

import (
	"fmt"
	"math"
	"slices"
	"strings"

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
	root   *element
	ids    map[string]*element
	rules  []rule
	newID  func() scene.ID
	out    []*scene.Item
	missed map[string]int
	order  []string
	uses   int
}

// Read turns an SVG file into items that keep its names and its grouping. What is not understood is
// listed, and the rest is read.
func Read(data []byte, newID func() scene.ID) (*Drawing, error) {
	root, err := parse(data)
	if err != nil {
		return nil, err
	}
	r := &reader{root: root, ids: map[string]*element{}, newID: newID, missed: map[string]int{}}
	root.walk(func(e *element) {
		if id := e.get("id"); id != "" && r.ids[id] == nil {
			r.ids[id] = e
		}
		if e.name == "style" {
			r.sheet(e.text)
		}
	})
	width, height, view := viewport(root)
	// From here on y goes up, and the origin is in the middle.
	r.children(root, "", translate(-width/2, height/2).mul(view.flipped()), r.style(root, nil), 1)
	d := &Drawing{Items: r.out}
	for _, what := range r.order {
		if n := r.missed[what]; n > 1 {
			what = fmt.Sprintf("%s, %d times", what, n)
		}
		d.Missed = append(d.Missed, what)
	}
	if len(d.Items) == 0 {
		return nil, fmt.Errorf("there is nothing in the drawing that can be shown%s", because(d.Missed))
	}
	return d, nil
}

func because(missed []string) string {
	if len(missed) == 0 {
		return ""
	}
	return "; not understood: " + strings.Join(missed, ", ")
}

func (r *reader) miss(what string) {
	if r.missed[what] == 0 {
		r.order = append(r.order, what)
	}
	r.missed[what]++
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
		return width, height, translate((width-k*box[2])*fx, (height-k*box[3])*fy).mul(matrix{a: k, d: k}).mul(translate(-box[0], -box[1]))
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

// children reads what stands in an element. m leads from its coordinates, with y turned up, to those
// of the group's item, or of the composition.
func (r *reader) children(e *element, parent scene.ID, m matrix, s style, opacity float64) {
	for _, c := range slices.Backward(e.children) { // what comes last in the file is in front
		r.element(c, parent, m, s, opacity)
	}
}

func (r *reader) element(e *element, parent scene.ID, m matrix, outer style, opacity float64) {
	if slices.Contains(skipped, e.name) {
		return
	}
	s := r.style(e, outer)
	if s["display"] == "none" {
		return
	}
	if t := e.get("transform"); t != "" {
		own, ok := parseTransform(t)
		if !ok {
			r.miss("a transform that is written wrongly")
		}
		m = m.mul(own.flipped())
	}
	for _, what := range []string{"clip-path", "mask", "filter"} {
		if v := s[what]; v != "" && v != "none" {
			r.miss("a " + strings.ReplaceAll(what, "-", " "))
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
		r.group(e, parent, m, s, opacity)
	case "svg":
		_, _, view := viewport(e)
		r.group(e, parent, m.mul(translate(measure(e.get("x"), 0), -measure(e.get("y"), 0))).mul(view.flipped()), s, opacity)
	case "use":
		r.use(e, parent, m, s, opacity)
	case "text":
		r.words(e, parent, m, s, opacity)
	default:
		if contours, ok := r.contours(e); ok {
			r.shape(e, parent, m, s, opacity, contours)
			return
		}
		r.miss(missedNames(e.name))
	}
}

// missedNames says what an element that is not understood is.
func missedNames(name string) string {
	switch name {
	case "script":
		return "a script"
	case "image":
		return "a picture inside the drawing"
	case "foreignObject":
		return "content of another kind"
	case "animate", "animateTransform", "animateMotion", "set", "animateColor":
		return "an animation"
	}
	return "an element <" + clip(name) + ">"
}

// group makes a null of a group. What its transform holds beyond place, rotation and scale is passed
// on to what stands in it.
func (r *reader) group(e *element, parent scene.ID, m matrix, s style, opacity float64) {
	before := len(r.out)
	null := &scene.Item{ID: r.newID(), Name: nameOf(e, "Group"), Kind: scene.Null, Parent: parent}
	r.out = append(r.out, null)
	at := len(r.out)
	rest := place(null, m)
	r.children(e, null.ID, rest, s, opacity)
	if len(r.out) == at { // an empty group is nothing
		r.out = r.out[:before]
	}
}

// place sets position, rotation and scale of an item from a map, and returns what the map does
// before them.
func place(item *scene.Item, m matrix) (rest matrix) {
	x, y, degrees, sx, sy, _ := m.parts()
	set := func(key string, v scene.Value) {
		if v != item.Spec(key).Default {
			item.Edit(key).Own = v
		}
	}
	if sx == 0 || sy == 0 {
		degrees, sx, sy = 0, 1, 1
	}
	set("position", scene.Pt(tidy(x), tidy(y), 0))
	set("rotation", scene.Num(tidy(degrees)))
	set("scale", scene.Pt(tidy(sx*100), tidy(sy*100), 100))
	taken, ok := translate(tidy(x), tidy(y)).mul(rotate(tidy(degrees))).mul(matrix{a: tidy(sx*100) / 100, d: tidy(sy*100) / 100}).inverse()
	if !ok {
		return identity
	}
	return taken.mul(m)
}

// tidy rounds to a millionth, so that what was written as whole numbers stays so.
func tidy(x float64) float64 {
	r := math.Round(x*1e6) / 1e6
	return r + 0 // no negative zero
}

// nameOf returns what the file calls an element.
func nameOf(e *element, kind string) string {
	name := e.get("label")
	for _, c := range e.children {
		if c.name == "title" && name == "" {
			name = strings.TrimSpace(c.text)
		}
	}
	if name == "" {
		name = e.get("id")
	}
	if name == "" {
		name = kind
	}
	if r := []rune(name); len(r) > scene.MaxName {
		name = string(r[:scene.MaxName])
	}
	if scene.CheckName(name) != nil {
		return kind
	}
	return name
}

// maxUses bounds how often elements are repeated, so that a few that repeat each other cannot fill
// the memory.
const maxUses = 2000

func (r *reader) use(e *element, parent scene.ID, m matrix, s style, opacity float64) {
	href := e.get("href")
	target := r.ids[strings.TrimPrefix(href, "#")]
	if !strings.HasPrefix(href, "#") {
		r.miss("a reference to something outside of the file")
		return
	}
	if target == nil {
		r.miss("a reference to something that is not in the file")
		return
	}
	for up := e; up != nil; up = up.parent {
		if up == target {
			r.miss("a reference to itself")
			return
		}
	}
	if r.uses++; r.uses > maxUses || len(r.out) > MaxElements {
		r.miss("a repetition beyond the first " + fmt.Sprint(maxUses))
		return
	}
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
		r.group(group, parent, m.mul(view.flipped()), r.style(target, s), opacity)
		return
	}
	copied := *target
	copied.parent = e
	group.children = []*element{&copied}
	r.group(group, parent, m, s, opacity)
}
