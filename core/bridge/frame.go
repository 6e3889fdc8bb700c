package bridge

import (
	"fmt"

	"wunderkammer/core/engine"
	"wunderkammer/core/outline"
	"wunderkammer/core/scene"
)

// What a record of packed shapes is. Each begins with the index of its item and one of these.
const (
	recordSurface = iota // of a flat item: left, bottom, right, top, verbs, coordinates, the verbs, the coordinates
	recordLine           // along a flat item, as a surface
	recordOutline        // the line is the edge of the surface; nothing follows
	recordMesh           // corners, indices, then for all corners x, y, z, then normals, then u, v, then the indices
	recordForm           // the number of a form: what follows of the item is that, as copies show it
)

// Frame is what a page draws of a frame. Its slices belong to the bridge and are overwritten by the next one.
type Frame struct {
	// Told is what changed of the values.
	engine.Told
	// Shapes are those that changed since the last frame, one record after the other.
	Shapes []float32
	// Particles are, for each emitter that is shown, its index and their number, then for each x, y, z, size, its
	// speed in x and y, and red, green, blue, alpha.
	Particles []float32
	// Copies are, for each item that is shown and shows copies, its index and how many items they show altogether, from the
	// back to the front; then for each of these its index, the opacity that is left of it, how much of the tint, red, green and
	// blue of that, its form (0 for its own shape), its place (as a world transform, without the rotation), and how many values
	// of it are others, with the slot and the value of each.
	Copies []float32
	// Texts are those that formulas wrote since the page was last told of texts.
	Texts []string
}

// Evaluate evaluates a frame; nil where no project is open. Where the core broke on the way, it says how, and has to be
// started anew.
func (b *Bridge) Evaluate(at float64) (*Frame, string) {
	return b.shown(at, func() {})
}

// shown is Evaluate, with a call before every item whose shape is packed.
func (b *Bridge) shown(at float64, before func()) (*Frame, string) {
	return b.drawn(at, &b.frame, func(f *Frame, _ []float64) {
		plan := b.session.Plan()
		b.watcher.Tell(plan, &f.Told)
		f.Shapes, f.Copies, f.Particles = f.Shapes[:0], f.Copies[:0], f.Particles[:0]
		b.tracker.Changed(plan, func(i int32, what engine.Changes) {
			before()
			f.pack(plan, i, what)
		})
		b.copies(f, plan)
	})
}

// Read evaluates a frame as Evaluate does, but returns all values and no shapes, and the page is not taken to be
// told of them: what it shows stays as it is.
func (b *Bridge) Read(at float64) (*Frame, string) {
	return b.drawn(at, &b.read, func(f *Frame, values []float64) { f.Whole, f.Particles = values, f.Particles[:0] })
}

// drawn evaluates a frame and fills in what the caller takes of it, and besides the particles, and the texts that are
// new.
func (b *Bridge) drawn(at float64, into *Frame, take func(f *Frame, values []float64)) (f *Frame, broken string) {
	if b.session == nil {
		return nil, ""
	}
	defer func() {
		if p := recover(); p != nil {
			f, broken = nil, fmt.Sprintf("frame %v: %v", at, p)
		}
	}()
	f = into
	take(f, b.session.Evaluate(at))
	plan := b.session.Plan()
	f.Texts = nil
	for _, i := range plan.Layout.OfKind(scene.Emitter) {
		if plan.Shown(i) {
			f.fly(plan, i)
		}
	}
	if texts := plan.Texts(); len(texts) > b.texts {
		f.Texts = texts[b.texts:]
		b.texts = len(texts)
	}
	return f, ""
}

func (f *Frame) pack(plan *engine.Plan, i int32, what engine.Changes) {
	if plan.Layout.Items[i].Kind.Class() == scene.Solid {
		m := plan.Mesh(i)
		f.Shapes = append(f.Shapes, float32(i), recordMesh, float32(len(m.Places)/3), float32(len(m.Index)))
		f.Shapes = append(f.Shapes, m.Places...)
		f.Shapes = append(f.Shapes, m.Normals...)
		f.Shapes = append(f.Shapes, m.UVs...)
		for _, k := range m.Index {
			f.Shapes = append(f.Shapes, float32(k))
		}
		return
	}
	if what.Surface {
		f.packPath(i, recordSurface, plan.Shape(i))
	}
	if line, whole := plan.Stroke(i); whole {
		f.Shapes = append(f.Shapes, float32(i), recordOutline)
	} else {
		f.packPath(i, recordLine, line)
	}
}

func (f *Frame) packPath(i int32, record float32, path outline.Path) {
	box := path.Box()
	f.Shapes = append(f.Shapes, float32(i), record, float32(box.Left), float32(box.Bottom), float32(box.Right), float32(box.Top),
		float32(len(path.Verbs)), float32(len(path.Points)))
	for _, v := range path.Verbs {
		f.Shapes = append(f.Shapes, float32(v))
	}
	for _, x := range path.Points {
		f.Shapes = append(f.Shapes, float32(x))
	}
}

func (f *Frame) fly(plan *engine.Plan, i int32) {
	var all []float32
	plan.Particles(i, func(p *engine.Particle) { all = packParticle(all, p) })
	f.flock(i, all)
}

// flock packs the particles of an emitter.
func (f *Frame) flock(i int32, all []float32) {
	f.Particles = append(append(f.Particles, float32(i), float32(len(all)/particleSize)), all...)
}

// particleSize is how many numbers a particle is packed into.
const particleSize = 10

func packParticle(to []float32, p *engine.Particle) []float32 {
	return append(to, float32(p.Place[0]), float32(p.Place[1]), float32(p.Place[2]), float32(p.Size), float32(p.Moving[0]), float32(p.Moving[1]),
		float32(p.Colour[0]), float32(p.Colour[1]), float32(p.Colour[2]), float32(p.Colour[3]))
}
