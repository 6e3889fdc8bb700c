package bridge

import (
	"maps"
	"slices"

	"wunderkammer/core/engine"
	"wunderkammer/core/scene"
)

// form is the shape of an item as late copies show it.
type form struct {
	item scene.ID
	hash uint64
}

// forms numbers the forms that the page has: those that the last frame showed.
type forms struct {
	numbers map[form]int
	last    int
}

// forget takes the page to know nothing of what is drawn.
func (b *Bridge) forget() {
	b.tracker.Forget()
	b.forms = forms{}
}

// copies packs what all copies show, and the forms of it that the page does not have.
func (b *Bridge) copies(f *Frame, plan *engine.Plan) {
	shown := map[form]int{}
	flocks := map[int32][]float32{} // particles of all copies of an emitter
	for _, i := range plan.Layout.OfKind(scene.CopiesItem) {
		if !plan.Shown(i) {
			continue
		}
		head := len(f.Copies)
		f.Copies = append(f.Copies, float32(i), 0)
		plan.Copies(i, func(c *engine.Copied) {
			if plan.Layout.Items[c.Item].Kind == scene.Emitter {
				flocks[c.Item] = copiedParticles(flocks[c.Item], plan, c)
				return
			}
			number := 0
			if c.Late {
				if hash := b.tracker.Form(plan, c.Item); hash != 0 {
					number = b.form(f, plan, c.Item, form{plan.Layout.Items[c.Item].ID, hash}, shown)
				}
			}
			f.copied(plan, c, number)
			f.Copies[head+1]++
		})
	}
	b.forms.numbers = shown
	for _, i := range slices.Sorted(maps.Keys(flocks)) {
		f.flock(i, flocks[i])
	}
}

// copiedParticles packs the particles of an emitter as a copy shows it, behind those of others.
func copiedParticles(to []float32, plan *engine.Plan, c *engine.Copied) []float32 {
	through := c.Through
	plan.ParticlesThrough(c.Item, &through, func(p *engine.Particle) {
		if len(to) >= particleSize*engine.MaxParticles {
			return
		}
		for k, x := range c.Tint {
			p.Colour[k] += float64((x - p.Colour[k]) * c.Tinted)
		}
		p.Colour[3] *= c.Opacity
		to = packParticle(to, p)
	})
	return to
}

// form returns the number of a form, and packs it where the page does not have it.
func (b *Bridge) form(f *Frame, plan *engine.Plan, item int32, one form, shown map[form]int) int {
	if n := shown[one]; n > 0 {
		return n
	}
	n := b.forms.numbers[one]
	if n == 0 {
		b.forms.last = b.forms.last%maxForm + 1
		n = b.forms.last
		f.Shapes = append(f.Shapes, float32(item), recordForm, float32(n))
		f.pack(plan, item, engine.Changes{Surface: true, Line: true})
	}
	shown[one] = n
	return n
}

// maxForm is the highest number of a form that a float32 holds exactly; those of long ago are used again.
const maxForm = 1 << 24

func (f *Frame) copied(plan *engine.Plan, c *engine.Copied, form int) {
	f.Copies = append(f.Copies, float32(c.Item), float32(c.Opacity), float32(c.Tinted), float32(c.Tint[0]), float32(c.Tint[1]), float32(c.Tint[2]), float32(form))
	world := plan.World(c.Item)
	for _, x := range world {
		f.Copies = append(f.Copies, float32(x))
	}
	f.Copies = append(f.Copies, float32(len(c.Looks)))
	for _, s := range c.Looks {
		f.Copies = append(f.Copies, float32(s), float32(plan.At(s)))
	}
}
