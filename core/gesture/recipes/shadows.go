package recipes

import (
	"fmt"
	"math"

	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
)

// castShadows gives each item a shadow: its outline, thrown from a lamp onto a floor that is seen at a slant. Every shadow is a path
// whose vertices are those of the outline; a link on them projects them, and links on the row of shadows place and fade them. What
// all have in common are controls of the floor.
func castShadows(c *gesture.Context, items []*scene.Item, v values) (gesture.Result, error) {
	lamp, things := takeOut(items, func(i *scene.Item) bool { return i.Kind.Class() == scene.Light })
	for _, item := range things {
		if !item.Kind.Drawn() {
			return gesture.Result{}, fmt.Errorf("%s is %s, which casts no shadow", item.Name, item.Kind.Info().One())
		}
	}
	if len(things) == 0 {
		return gesture.Result{}, fmt.Errorf("select what is to cast a shadow")
	}
	low, high, middle := bounds(c, things)
	r := gesture.NewRig(c)
	shadows, behind := scene.Roster{Kind: scene.Picked}, 0
	ground := math.Inf(1)
	for _, thing := range things {
		foot, _ := c.Reaches(thing)
		ground = min(ground, foot[1])
		behind = max(behind, c.Composition.IndexOf(rootOf(c, thing).ID)+1)
	}
	from, depth := scene.ID(""), 300.0 // how far the lamp stands behind the things
	if lamp != nil {
		from = lamp.ID
		at := c.Plan().Derived(c.Planned.Layout.Index(lamp.ID), "worldPosition")
		depth = math.Round(depth + at.At(2) - middle[2])
	}
	fader := func(key, name string, value, top float64, unit scene.Unit) *scene.Control {
		v[key] = max(0, value)
		return &scene.Control{ID: c.NewID(), Name: name, Kind: scene.Fader, Unit: unit, SoftMax: max(top, v[key]), Default: scene.Num(v[key])}
	}
	strength := fader("strength", "Strength", min(100, v["strength"]), 100, scene.Percent)
	slant := fader("flat", "Slant", v["flat"], 100, scene.Percent)
	longest := fader("longest", "Longest", v["longest"], 600, scene.Percent)
	back := &scene.Control{ID: c.NewID(), Name: "Lamp behind", Kind: scene.Fader, Unit: scene.Pixels, SoftMin: min(-600, depth), SoftMax: max(600, depth), Default: scene.Num(depth)}
	floor := r.Null("Floor", [3]float64{middle[0], ground, 0}, strength, slant, longest, back)
	if lamp == nil {
		from = r.Null("Lamp", [3]float64{middle[0] + float64((high[0]-low[0])/4), high[1] + 300, 0}).ID
	}
	made := r.Made
	for k, thing := range things {
		shadow := r.Item(scene.PathItem, thing.Name+" shadow")
		shadow.Path = silhouette(c, thing)
		shadow.Edit("fill").Own = scene.RGBA(0.1, 0.08, 0.12, 1)
		shadow.Edit("secondFill").Own = scene.RGBA(0.1, 0.08, 0.12, 0.3)
		shadow.Edit("gradient").Own = scene.Num(1)
		shadow.Edit("gradientFrom").Own = scene.Pt(0, 0)
		shadows.Items = append(shadows.Items, shadow.ID)
		r.Add(shadow, len(made)+behind+k) // one after the other behind all that cast them
	}
	pair, err := rowOf(things, "position")
	if err != nil {
		return gesture.Result{}, err
	}
	// How far a point of a thing is thrown, for each pixel that it stands over the floor: sideways, and toward the one who looks.
	// Where the lamp is at the height of the thing or below, it is thrown as far as from a little above, and never further than
	// the longest.
	thrown := func(thing, side string) string {
		return "lamp = " + world(from) + "\nfloor = " + world(floor.ID) + ".y\nthing = " + thing + "\nmost = " + reading(floor, longest) + " / 100\n" +
			"over = max(lamp.y - thing.y, max(0, thing.y - floor) * 0.25 + 20)\n" +
			"side = clamp((" + side + " - lamp.x) / over, -most, most)\n" +
			"front = clamp((thing.z - lamp.z + " + reading(floor, back) + ") / over, -most, most) * " + reading(floor, slant) + " / 100\n"
	}
	for k, thing := range things {
		at := func(key string) string { return fmt.Sprintf("{@%s:@%s}", thing.ID, key) }
		pivot := "[" + at("pivot") + ".x, " + at("pivot") + ".y]"
		text := "p = own - " + pivot + "\n"
		if size := thing.Spec("size"); size != nil { // the outline grows with it
			now := c.Value(thing, "size")
			text = fmt.Sprintf("p = own * [%s.x / %s, %s.y / %s] - %s\n", at("size"), scene.Exact(max(1, now.At(0))), at("size"), scene.Exact(max(1, now.At(1))), pivot)
		}
		text += "dx = p.x * " + at("worldScale") + ".x / 100\ndy = p.y * " + at("worldScale") + ".y / 100\nturn = " + at("worldRotation") + "\n" +
			"x = cos(turn) * dx - sin(turn) * dy\n" + thrown(at("worldPosition"), at("worldPosition")+".x + x") +
			"high = max(0, thing.y + sin(turn) * dx + cos(turn) * dy - floor)\n" +
			"[x + high * side, -high * front]"
		r.Row("outline of "+thing.Name+" shadow", scene.Roster{Kind: scene.Vertices, Item: shadows.Items[k]}, scene.OwnVertex, text)
	}
	const partner = "{partner:@worldPosition}"
	middleHigh := "high = max(0, thing.y - floor)\n"
	for _, one := range []struct{ key, text string }{
		{"position", "[thing.x, floor, 0]"},
		{"gradientTo", middleHigh + "[2 * high * side, -2 * high * front - 1]"},
		{"opacity", middleHigh + "gone = high * min(most, distance(lamp, thing) / over)\n" + reading(floor, strength) + " / (1 + gone / 500)"},
	} {
		s := r.Row("shadows: "+one.key, *shadows.Clone(), one.key, thrown(partner, "thing.x")+one.text)
		s.Pair, s.Link.World = pair.Clone(), one.key == "position"
	}
	if lamp != nil {
		made = append([]scene.ID{lamp.ID}, made...)
	} else {
		made[0], made[1] = made[1], made[0] // the lamp first
	}
	r.Made = made
	r.Note = fmt.Sprintf("move the lamp; %s is what they fall on, and has their controls", floor.Name)
	return r.Result, nil
}

// rootOf returns the item at the root of the tree that another hangs on.
func rootOf(c *gesture.Context, item *scene.Item) *scene.Item {
	for item.Parent != "" && c.Composition.Item(item.Parent) != nil {
		item = c.Composition.Item(item.Parent)
	}
	return item
}

// MaxSilhouette bounds the vertices of a shadow.
const MaxSilhouette = 240

// silhouette is the outline of an item with few vertices: as many as show it to within 0.4 % of its size, or less closely where
// that would be more than maxSilhouette.
func silhouette(c *gesture.Context, item *scene.Item) *scene.PathShape {
	lines := c.Contours(item)
	reach := 1.0
	for _, line := range lines {
		for _, x := range line {
			reach = max(reach, math.Abs(x))
		}
	}
	for off := reach * 0.008; ; off *= 1.6 {
		shape, id := &scene.PathShape{}, 0
		for _, line := range lines {
			points := thinned(line, off)
			if len(points) < 6 {
				continue
			}
			contour := scene.Contour{Closed: true}
			for k := 0; k < len(points); k += 2 {
				id++
				contour.Vertices = append(contour.Vertices, scene.Vertex{ID: id, At: [2]float64{math.Round(points[k]*100) / 100, math.Round(points[k+1]*100) / 100}})
			}
			shape.Contours = append(shape.Contours, contour)
		}
		if id <= MaxSilhouette {
			return shape
		}
	}
}

// thinned leaves out the points of a line that the others show to within a distance (the method of Ramer, Douglas and Peucker), and
// the last one where it lies on the first.
func thinned(line []float64, off float64) []float64 {
	n := len(line) / 2
	if n > 1 && math.Hypot(line[0]-line[2*n-2], line[1]-line[2*n-1]) < off/10 {
		n--
	}
	if n < 3 {
		return line[:2*n]
	}
	kept := make([]bool, n)
	far := 0 // a closed line is cut in two where it is farthest from its first point
	for k := range n {
		if math.Hypot(line[2*k]-line[0], line[2*k+1]-line[1]) > math.Hypot(line[2*far]-line[0], line[2*far+1]-line[1]) {
			far = k
		}
	}
	kept[0], kept[far] = true, true
	todo := [][2]int{{0, far}, {far, n}}
	for len(todo) > 0 {
		from, to := todo[len(todo)-1][0], todo[len(todo)-1][1]
		todo = todo[:len(todo)-1]
		ax, ay, bx, by := line[2*from], line[2*from+1], line[2*(to%n)], line[2*(to%n)+1]
		long, most, at := math.Hypot(bx-ax, by-ay), off, -1
		for k := from + 1; k < to; k++ {
			away := math.Hypot(line[2*k]-ax, line[2*k+1]-ay)
			if long > 0 {
				away = math.Abs(float64((bx-ax)*(line[2*k+1]-ay))-float64((by-ay)*(line[2*k]-ax))) / long
			}
			if away > most {
				most, at = away, k
			}
		}
		if at >= 0 {
			kept[at] = true
			todo = append(todo, [2]int{from, at}, [2]int{at, to})
		}
	}
	var out []float64
	for k := range n {
		if kept[k] {
			out = append(out, line[2*k], line[2*k+1])
		}
	}
	return out
}
