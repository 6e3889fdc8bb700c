package engine

import (
	"math"

	"wunderkammer/core/num"
	"wunderkammer/core/outline"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// derived says how each of the properties that can only be read comes about.
var derived = map[string]func(p *Plan, c *snapshot, i int32, out []float64){
	"worldPosition": func(p *Plan, c *snapshot, i int32, out []float64) {
		pivot := p.place[i][5]
		world := p.posed(c, i)
		at := world.Apply([3]float64(c.values[pivot : pivot+3]))
		copy(out, at[:])
	},
	"worldRotation": func(p *Plan, c *snapshot, i int32, out []float64) { out[0] = p.posed(c, i).Turn },
	"worldScale": func(p *Plan, c *snapshot, i int32, out []float64) {
		world := p.posed(c, i)
		_, _, scale := world.Parts([3]float64{})
		copy(out, scale[:])
	},
	"length":        func(p *Plan, c *snapshot, i int32, out []float64) { path := p.contours(c, i); out[0] = path.Length() },
	"verticesCount": func(p *Plan, _ *snapshot, i int32, out []float64) { out[0] = float64(p.Vertices(i)) },
	"framesCount":   func(p *Plan, _ *snapshot, i int32, out []float64) { out[0] = float64(len(p.Layout.Items[i].Frames)) },
	"rowsCount":     func(p *Plan, _ *snapshot, i int32, out []float64) { out[0] = float64(p.Layout.Items[i].Table.Rows()) },
	"lettersCount": func(p *Plan, c *snapshot, i int32, out []float64) {
		_, slot := p.Layout.FindAt(i, "text")
		out[0] = float64(outline.Letters(p.words.texts[int(c.values[slot])]))
	},
}

// read works out something derived into its slots, where links find it.
func (p *Plan) read(c *snapshot, r *wire.Read) {
	size := int32(r.Spec.Type.Size())
	p.derive(c, r.Item, r.Spec.Key, c.values[r.Slot:r.Slot+size])
	copy(c.own[r.Slot:r.Slot+size], c.values[r.Slot:r.Slot+size])
}

// derive works out a property that can only be read, or where a vertex of an object stands of
// itself.
func (p *Plan) derive(c *snapshot, i int32, key string, out []float64) {
	if make, ok := derived[key]; ok {
		make(p, c, i, out)
		return
	}
	if k := p.Layout.Items[i].Table.Column(key); k >= 0 {
		_, row := p.Layout.FindAt(i, "row")
		out[0] = p.cell(i, k, c.values[row])
		return
	}
	id, world, ok := scene.VertexOf(key)
	if !ok {
		return
	}
	at, ok := p.vertex(c, i, id, world)
	if !ok {
		return
	}
	if world {
		m := p.posed(c, i)
		at = m.Apply(at)
	}
	copy(out, at[:])
}

// cell is what stands in a row of a column of a table: a number, or the number of a text; no number where there is none.
func (p *Plan) cell(i int32, column int, row float64) float64 {
	t := p.Layout.Items[i].Table
	if t == nil || column < 0 || column >= len(t.Columns) || row != row {
		return math.NaN()
	}
	if c := t.Columns[column]; len(c.Texts) > 0 {
		return p.handle(c.TextAt(row))
	}
	return t.Columns[column].At(row)
}

// vertex returns where a vertex stands in the item's own space; with moved, as it was set or is
// driven, else as it stands of itself.
func (p *Plan) vertex(c *snapshot, i int32, id int, moved bool) (at [3]float64, ok bool) {
	item := p.Layout.Items[i]
	if item.Kind == scene.PathItem {
		v, _ := item.Path.Vertex(id)
		if v == nil {
			return at, false
		}
		place := p.vertexOfPath(c, i, v)
		return [3]float64{place[0], place[1], 0}, true
	}
	if spec, slot := p.Layout.FindAt(i, scene.VertexKey(id)); moved && spec != nil {
		return [3]float64{held(c.values[slot]), held(c.values[slot+1]), held(c.values[slot+2])}, true
	}
	body := p.body(c, i, false)
	return body.Natural(id)
}

func (p *Plan) vertexOfPath(c *snapshot, i int32, v *scene.Vertex) [2]float64 {
	if spec, slot := p.Layout.FindAt(i, scene.VertexKey(v.ID)); spec != nil {
		return [2]float64{c.values[slot], c.values[slot+1]}
	}
	return v.At
}

// Vertices returns how many numbered vertices item i has.
func (p *Plan) Vertices(i int32) int {
	item := p.Layout.Items[i]
	if item.Kind == scene.PathItem {
		return item.Path.Count()
	}
	return item.SolidVertices()
}

// Derived returns a property that can only be read, or a vertex, of item i at the frame last
// evaluated, whether or not a link asks for it; absent where there is none.
func (p *Plan) Derived(i int32, key string) scene.Value {
	spec := p.Layout.Items[i].Spec(key)
	if spec == nil {
		return scene.Value{}
	}
	if known, slot := p.Layout.FindAt(i, key); known != nil {
		return scene.NewValue(p.now.values[slot : slot+int32(spec.Type.Size())])
	}
	out := make([]float64, spec.Type.Size())
	p.derive(&p.now, i, key, out)
	if spec.Type == scene.Text {
		return scene.Txt(p.words.texts[int(out[0])])
	}
	return scene.NewValue(out)
}

// Middle returns the middle of what is drawn of item i, in its own space: where a pivot goes that
// is put into the middle.
func (p *Plan) Middle(i int32) [3]float64 {
	lo, hi, ok := p.Bounds(i)
	if !ok {
		return [3]float64{}
	}
	return [3]float64{(lo[0] + hi[0]) / 2, (lo[1] + hi[1]) / 2, (lo[2] + hi[2]) / 2}
}

// Bounds returns the corners of the box around what is drawn of item i, in its own space.
func (p *Plan) Bounds(i int32) (lo, hi [3]float64, ok bool) {
	switch p.Layout.Items[i].Kind.Class() {
	case scene.Solid:
		for k, at := range p.Points(i) {
			for axis := range 3 {
				if k == 0 || at[axis] < lo[axis] {
					lo[axis] = at[axis]
				}
				if k == 0 || at[axis] > hi[axis] {
					hi[axis] = at[axis]
				}
			}
		}
		return lo, hi, true
	case scene.Outlined, scene.Pictured:
		path := p.Shape(i)
		box := path.Box()
		return [3]float64{box.Left, box.Bottom, 0}, [3]float64{box.Right, box.Top, 0}, len(path.Points) > 0
	}
	return lo, hi, false
}

// bounds of numbers that an outline or a mesh can be made of.
const far = 1e7

func held(x float64) float64 { return num.Clamp(x, -far, far) }
