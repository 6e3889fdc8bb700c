package rehearse

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"wunderkammer/core/check"
	"wunderkammer/core/engine"
	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

// sweep moves a control over its range. It reports whether to go on.
func (r *Rehearsal) sweep(k *control, moment func() bool) bool {
	defer r.restore(k)
	for n, from := range k.runs {
		to := len(k.values)
		if n+1 < len(k.runs) {
			to = k.runs[n+1]
		}
		rows := make([][]float64, 0, to-from)
		for _, v := range k.values[from:to] {
			at := Setting{k.ref, v}
			values := r.evaluate(at)
			r.note(k, values)
			r.look(at)
			row := make([]float64, len(r.driven))
			for k, d := range r.driven {
				row[k] = values[d.Slot]
			}
			rows = append(rows, row)
			if !moment() {
				return false
			}
		}
		if k.smooth {
			r.jumps(k, k.values[from:to], rows)
		}
		r.limits(k, k.values[from:to], rows)
	}
	return true
}

// note notes the slots that a control changes.
func (r *Rehearsal) note(k *control, values []float64) {
	_, own := r.p.Layout.Find(k.ref.Item, k.ref.Property)
	size := int32(k.spec.Type.Size())
	for s, v := range values {
		if math.Float64bits(v) != math.Float64bits(r.rest[s]) && (int32(s) < own || int32(s) >= own+size) {
			k.touched[int32(s)] = true
		}
	}
}

// together sets two controls to their ends.
func (r *Rehearsal) together(a, b *control, moment func() bool) bool {
	defer r.restore(a, b)
	common := false
	for s := range a.touched {
		common = common || b.touched[s]
	}
	for _, x := range []scene.Value{a.ends[0], a.ends[len(a.ends)-1]} {
		for _, y := range []scene.Value{b.ends[0], b.ends[len(b.ends)-1]} {
			if common {
				r.evaluate(Setting{a.ref, x}, Setting{b.ref, y})
				r.look(Setting{a.ref, x}, Setting{b.ref, y})
			}
			if !moment() {
				return false
			}
		}
	}
	return true
}

// look finds what is wrong at the moment that was evaluated last.
func (r *Rehearsal) look(settings ...Setting) {
	names := r.name(settings[0])
	if len(settings) > 1 {
		names += " and " + r.name(settings[1])
	}
	for _, b := range r.p.NotFinite() {
		at, name := b.At, r.c.NameOf(b.At)
		at.Component = ""
		if inside := r.p.Layout.Anywhere(at.Item); inside >= 0 && r.p.Layout.Staged(inside) {
			piece := r.p.Layout.Items[r.p.Layout.Outermost(inside)]
			name = r.p.Layout.CompositionOf(inside).NameOf(b.At) + ", in " + piece.Name + ","
			at = scene.Ref{Item: piece.ID, Property: "position"}
		}
		r.add("finite", Finding{
			Severity: check.Error, At: at, Settings: settings, weight: 10, cause: string(b.Link.ID),
			Sentence: fmt.Sprintf("%s has no valid result with %s; the value below is used", name, names),
		})
	}
	for i, item := range r.p.Layout.Items {
		if r.seen(int32(i)) && r.leaves(int32(i)) {
			at, name := scene.Ref{Item: item.ID, Property: "position"}, item.Name
			if piece := r.p.Layout.Outermost(int32(i)); piece >= 0 {
				at.Item = r.p.Layout.Items[piece].ID
				name += " of " + r.p.Layout.Items[piece].Name
			}
			r.add("leaves", Finding{
				Severity: check.Warning, At: at, Settings: settings, weight: 3, cause: moved(settings),
				Sentence: fmt.Sprintf("%s leaves the frame with %s", name, names),
			})
		}
	}
	if r.options.Overlaps {
		r.overlaps(names, settings)
	}
}

// moved names the controls of some settings, wherever these put them.
func moved(settings []Setting) (names string) {
	for _, s := range settings {
		names += fmt.Sprint(s.Ref.Item, "/", s.Ref.Property, " ")
	}
	return names
}

// seen reports whether an item is drawn flat and can be seen.
func (r *Rehearsal) seen(i int32) bool {
	_, measured := r.boxes[i]
	spec, slot := r.p.Layout.FindAt(i, "opacity")
	return measured && spec != nil && r.p.At(slot) > 0
}

// leaves reports whether an item is outside of the frame and was not where everything stands as in the document; a part of something
// that is still in sight does not count.
func (r *Rehearsal) leaves(i int32) bool {
	first := r.p.Layout.SeenOf(i)
	moved := false
	for s := first; s < first+12; s++ {
		moved = moved || r.p.At(s) != r.rest[s]
	}
	if !moved || !r.outside(r.boxes[i].placed(r.p.World(i))) || r.outside(r.boxes[i].placed(r.atRest(i))) {
		return false
	}
	for on := r.p.Layout.Holder(i); on >= 0; on = r.p.Layout.Holder(on) {
		if b, drawn := r.boxes[on]; drawn && !r.outside(b.placed(r.p.World(on))) {
			return false
		}
	}
	return true
}

// atRest returns where an item stands where all controls stand as in the document.
func (r *Rehearsal) atRest(i int32) num.Affine {
	first := r.p.Layout.SeenOf(i)
	return num.Affine(r.rest[first : first+12])
}

// maxOverlapping is how many members of a row are compared with each other.
const maxOverlapping = 200

// overlaps finds members of one row that lie over each other and do not where everything stands as in the document.
func (r *Rehearsal) overlaps(names string, settings []Setting) {
	for _, s := range r.c.RosterLinks {
		members := s.Members(r.c)
		if len(members) > maxOverlapping {
			continue
		}
		for n, m := range members {
			for _, o := range members[n+1:] {
				i, j := r.p.Layout.Index(m.Item.ID), r.p.Layout.Index(o.Item.ID)
				if i == j || !r.seen(i) || !r.seen(j) || !r.apartAtRest(i, j) {
					continue
				}
				if r.boxes[i].placed(r.p.World(i)).over(r.boxes[j].placed(r.p.World(j))) {
					r.add("overlap", Finding{
						Severity: check.Warning, At: scene.Ref{Item: o.Item.ID, Property: "position"}, Settings: settings, weight: 1, cause: string(s.ID),
						Sentence: fmt.Sprintf("%s and %s overlap with %s", m.Item.Name, o.Item.Name, names),
					})
				}
			}
		}
	}
}

// apartAtRest reports whether two items do not lie over each other where everything stands as in the document.
func (r *Rehearsal) apartAtRest(i, j int32) bool {
	return !r.boxes[i].placed(r.atRest(i)).over(r.boxes[j].placed(r.atRest(j)))
}

// jump is a step of a driven value that is larger than it should be.
type jump struct {
	slot     int32
	step     int // between this value of the control and the next
	size     float64
	from, to float64
}

// jumps finds driven values that move much farther in one step than in the others, and do so however small the step is made.
func (r *Rehearsal) jumps(k *control, values []scene.Value, rows [][]float64) {
	var found []jump
	for n, d := range r.driven {
		if !k.touched[d.Slot] {
			continue
		}
		if j, ok := largest(d, n, rows); ok {
			found = append(found, j)
		}
	}
	slices.SortStableFunc(found, func(a, b jump) int { return cmp.Compare(b.size, a.size) })
	count := 0
	for _, j := range found {
		low, high := values[j.step], values[j.step+1]
		from, to, still := j.from, j.to, true
		for range 24 { // to a step of a millionth of the first
			middle := between(low, high)
			at := r.evaluate(Setting{k.ref, middle})[j.slot]
			if math.Abs(at-from) > math.Abs(to-at) {
				high, to = middle, at
			} else {
				low, from = middle, at
			}
			if math.Abs(to-from) < 0.5*math.Abs(j.to-j.from) {
				still = false
				break
			}
		}
		if !still {
			continue
		}
		ref := r.p.RefOf(j.slot)
		at := ref
		at.Component = ""
		r.add("jump", Finding{
			Severity: check.Warning, At: at, Settings: []Setting{{k.ref, high}}, weight: 5 + j.size,
			Sentence: fmt.Sprintf("%s jumps from %s to %s with %s", r.c.NameOf(ref), told(scene.Num(from)), told(scene.Num(to)), r.name(Setting{k.ref, high})),
		})
		if count++; count == most {
			return
		}
	}
}

// largest returns the largest step of a slot, where that is much larger than the others and much of its whole way.
func largest(d engine.DrivenSlot, at int, rows [][]float64) (j jump, ok bool) {
	if d.Spec.Jumps() || d.Spec.Type == scene.Text {
		return j, false
	}
	steps := make([]float64, 0, len(rows))
	low, high := math.Inf(1), math.Inf(-1)
	for n := range rows {
		v := rows[n][at]
		if !num.Finite(v) {
			return j, false
		}
		low, high = min(low, v), max(high, v)
		if n == 0 {
			continue
		}
		step := math.Abs(v - rows[n-1][at])
		if steps = append(steps, step); step > j.size {
			j = jump{d.Slot, n - 1, step, rows[n-1][at], v}
		}
	}
	slices.Sort(steps)
	if len(steps) < 4 || j.size < 0.1*(high-low) || j.size < 1e-6 {
		return j, false
	}
	usual := steps[len(steps)/2]
	j.size /= high - low
	return j, math.Abs(j.to-j.from) > 6*usual
}

func between(a, b scene.Value) scene.Value {
	for k := range a.Len() {
		a = a.With(k, a.At(k)+float64((b.At(k)-a.At(k))/2))
	}
	return a
}

// limits finds driven values that are held at a limit over a part of a sweep in which what drives them goes on.
func (r *Rehearsal) limits(k *control, values []scene.Value, rows [][]float64) {
	count := 0
	for at, d := range r.driven {
		if !k.touched[d.Slot] || d.Spec.Jumps() || d.Spec.Type == scene.Text || !d.Limited {
			continue
		}
		for _, limit := range []float64{d.Spec.Min, d.Spec.Max} {
			held, first := 0, -1
			for n := range rows {
				if rows[n][at] == limit {
					if held++; first < 0 {
						first = n
					}
				}
			}
			if math.IsInf(limit, 0) || held < 2 || held == len(rows) {
				continue
			}
			ref := r.p.RefOf(d.Slot)
			whole := ref
			whole.Component = ""
			r.add("limit", Finding{
				Severity: check.Warning, At: whole, Settings: []Setting{{k.ref, values[first]}}, weight: 2 + float64(held)/float64(len(rows)),
				Sentence: fmt.Sprintf("%s is held at its limit of %s over %.0f %% of %s", r.c.NameOf(ref), scene.Exact(limit), 100*float64(held)/float64(len(rows)), r.c.NameOf(k.ref)),
			})
			if count++; count == most {
				return
			}
		}
	}
}
