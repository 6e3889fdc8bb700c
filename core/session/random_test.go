package session

import (
	"bytes"
	"encoding/json"
	"fmt"
	"math"
	"math/rand/v2"
	"reflect"
	"slices"
	"strings"
	"sync"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"

	"wunderkammer/core/change"
	"wunderkammer/core/check"
	"wunderkammer/core/engine"
	"wunderkammer/core/format/pack"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/catalogue"
	"wunderkammer/core/gesture/poses"
	"wunderkammer/core/scene"
)

// Whatever a hand does: the plan that is kept up to date gives what one made from nothing gives, the project can
// be kept, a refusal changes nothing, and undoing all of it leads back, step by step.
func TestGesturesAtRandom(t *testing.T) {
	made, refused := map[string]int{}, 0
	least, most := uint64(150), uint64(600)
	if testing.Short() {
		least, most = 10, 10
	}
	missing := func() bool {
		for name := range catalogue.All() {
			if made[name] == 0 {
				return true
			}
		}
		return false
	}
	for seed := uint64(0); seed < least || seed < most && missing(); seed++ { // some gestures rarely find what they are for
		refused += gesturesAtRandom(t, seed, made)
	}
	total := 0
	for name := range catalogue.All() {
		if total += made[name]; made[name] == 0 && !testing.Short() {
			t.Errorf("%q was never made", name)
		}
	}
	t.Logf("%d gestures were made, %d refused", total, refused)
	if refused < 20 {
		t.Errorf("only %d were refused", refused)
	}
}

// The same, with as many rounds as there is time for.
func FuzzGesturesAtRandom(f *testing.F) {
	for seed := range uint64(4) {
		f.Add(seed + 100000)
	}
	f.Fuzz(func(t *testing.T, seed uint64) { gesturesAtRandom(t, seed, map[string]int{}) })
}

// gesturesAtRandom makes gestures on a project, from nothing; it counts those that were made, and returns how many were
// refused.
func gesturesAtRandom(t *testing.T, seed uint64, made map[string]int) (refused int) {
	t.Helper()
	const steps = 60
	s := window(t, scene.NewProject("p", "P"), 0, "a")
	h := &hand{r: rand.New(rand.NewPCG(seed, 1)), s: s}
	check.Of(s.Composition(), s.Plan()) // of what is empty, too
	states := []string{text(t, s.Project)}
	seen := &seen{}
	kept := &keeper{p: s.Project.Clone()}
	for step := range steps {
		before, undone := text(t, s.Project), len(s.undo)
		name, g := h.gesture()
		at := fmt.Sprintf("seed %d, step %d, %s", seed, step, name)
		var posing *poses.AtStop
		if h.chance(4) { // a stop is posed
			if at := h.stop(); at.Stop != "none" {
				posing = &at
			}
		}
		var err error
		var now string
		for range 4 { // what is refused is tried on something else
			_, err = s.Do(g, Options{Frame: h.r.IntN(30), Preview: h.r.IntN(6) == 0, ID: fmt.Sprint("c", step), Posing: posing})
			seen.look(t, s, float64(step*7%40), at)
			s.Cancel() // a preview leaves nothing
			if now = text(t, s.Project); err == nil {
				break
			}
			if refused++; now != before {
				t.Fatalf("%s: refused with %v, and yet something changed", at, err)
			}
			g = gestures[name](h)
		}
		if err != nil {
			continue
		}
		made[name]++
		if len(s.undo) > undone {
			states = append(states, now)
		}
		if err := s.Project.Check(); err != nil {
			t.Fatalf("%s: the project cannot be kept: %v", at, err)
		}
		for _, posed := range s.Poses() { // shown for the time being, and no part of the document
			s.pose([]gesture.Pose{{Ref: posed}})
		}
		looked := s.Composition()
		check.Of(looked, s.Plan())
		if step%20 == 0 {
			check.Deep(looked, s.Plan())
		}
		if len(looked.Items) > 0 {
			check.Why(looked, s.Plan(), h.ref())
			check.Reach(looked, s.Plan(), h.ref())
		}
		kept.take(t, s, at)
		asNew(t, s, seen, at)
		if h.chance(5) && s.CanUndo() { // back and forth, with a look between
			if err := s.Undo("back"); err != nil {
				t.Fatalf("%s: %v", at, err)
			}
			asNew(t, s, seen, at+", undone")
			if err := s.Redo("forth"); err != nil {
				t.Fatalf("%s: %v", at, err)
			}
			if asNew(t, s, seen, at+", redone"); text(t, s.Project) != now {
				t.Fatalf("%s: redone it is another project", at)
			}
			kept.take(t, s, at+", redone")
		}
	}
	for k := len(states) - 2; k >= 0 && s.CanUndo(); k-- {
		if err := s.Undo(fmt.Sprint("u", k)); err != nil {
			t.Fatalf("seed %d: %v", seed, err)
		}
		if text(t, s.Project) != states[k] {
			t.Fatalf("seed %d: step %d, undone, does not lead back", seed, k+1)
		}
		seen.look(t, s, 9, fmt.Sprintf("seed %d: step %d undone", seed, k+1))
	}
	for s.CanRedo() {
		if err := s.Redo(fmt.Sprint("r", len(s.Waiting()))); err != nil {
			t.Fatalf("seed %d: %v", seed, err)
		}
	}
	if text(t, s.Project) != states[len(states)-1] {
		t.Fatalf("seed %d: all made again is not what it was", seed)
	}
	kept.take(t, s, fmt.Sprintf("seed %d, at the end", seed))
	asWritten(t, s.Project, fmt.Sprintf("seed %d", seed))
	return refused
}

// projectSchema is the schema of project files as it is published.
var projectSchema = sync.OnceValues(func() (*jsonschema.Schema, error) {
	return jsonschema.NewCompiler().Compile("../../docs/project.schema.json")
})

// asWritten compares the file of a project with what is published of such files, by a validator that knows nothing of us.
func asWritten(t *testing.T, p *scene.Project, at string) {
	t.Helper()
	schema, err := projectSchema()
	if err != nil {
		t.Fatal(err)
	}
	file, err := json.Marshal(pack.Document{Format: pack.FormatName, Version: pack.Version, Project: p})
	if err != nil {
		t.Fatal(err)
	}
	v, err := jsonschema.UnmarshalJSON(bytes.NewReader(file))
	if err == nil {
		err = schema.Validate(v)
	}
	if err != nil {
		t.Fatalf("%s: the file is not as the schema says: %v", at, err)
	}
}

// keeper is the project as a server has it: changes come as JSON and are applied, and now and then it starts anew from what is
// stored.
type keeper struct {
	p     *scene.Project
	taken int
}

// take takes in the changes of a window, and fails where the project is not, byte for byte, what the window has, and the same
// once it is loaded again, and once it is packed and opened.
func (v *keeper) take(t *testing.T, s *Session, at string) {
	t.Helper()
	for _, c := range s.Waiting()[v.taken:] {
		data, err := json.Marshal(c.Ops)
		if err != nil {
			t.Fatalf("%s: %v", at, err)
		}
		var ops change.Exact
		if err := json.Unmarshal(data, &ops); err != nil {
			t.Fatalf("%s: the change cannot be read: %v", at, err)
		}
		if _, _, err := change.Apply(v.p, change.Ops(ops)); err != nil {
			t.Fatalf("%s: the server refused the change: %v", at, err)
		}
		v.taken++
	}
	live := text(t, s.Project)
	if text(t, v.p) != live {
		t.Fatalf("%s: the server has another project", at)
	}
	again := &scene.Project{}
	if err := json.Unmarshal([]byte(live), again); err != nil {
		t.Fatalf("%s: %v", at, err)
	}
	if said := again.Heal(); len(said) > 0 || text(t, again) != live {
		t.Fatalf("%s: loaded again, it is another project (%v)", at, said)
	}
	if v.p = again; v.taken%4 > 0 {
		return
	}
	packed, err := pack.Write(again, nil)
	if err != nil {
		t.Fatalf("%s: %v", at, err)
	}
	opened, err := pack.Read(packed)
	if err != nil || len(opened.Mended) > 0 || text(t, opened.Project) != live {
		t.Fatalf("%s: packed and opened again, it is another project (%v)", at, err)
	}
}

// asNew fails where what is kept of a working copy is not, to the bit, what a plan made anew is.
func asNew(t *testing.T, s *Session, seen *seen, at string) {
	t.Helper()
	fresh := engine.New(s.Composition())
	for _, frame := range []float64{0, 17} {
		s.Evaluate(frame)
		fresh.Evaluate(s.Composition().Held(frame))
		seen.look(t, s, frame, at)
		if differs := compared(s.Plan(), fresh); differs != "" {
			t.Fatalf("%s, frame %v: the plan that was kept differs from a new one: %s", at, frame, differs)
		}
	}
	kept := s.Plan().Layout
	for i, item := range fresh.Layout.Items {
		if kept.Items[i].Name != item.Name {
			t.Fatalf("%s: the plan that was kept calls %s %s", at, item.Name, kept.Items[i].Name)
		}
		for _, spec := range fresh.Layout.Specs(int32(i)) {
			if old, _ := kept.FindAt(int32(i), spec.Key); !reflect.DeepEqual(old, spec) {
				t.Fatalf("%s: the plan that was kept has %+v of %s, want %+v", at, old, item.Name, spec)
			}
		}
	}
}

// seen is the column as one sees it who is told what changed, and nothing else.
type seen struct {
	watcher engine.Watcher
	tracker engine.Tracker
	told    engine.Told
	values  []float64
}

func (p *seen) look(t *testing.T, s *Session, frame float64, at string) {
	t.Helper()
	values := s.Evaluate(frame)
	if p.watcher.Tell(s.Plan(), &p.told); p.told.Whole != nil {
		p.values = slices.Clone(p.told.Whole)
	} else {
		for k, slot := range p.told.Slots {
			p.values[slot] = p.told.Values[k]
		}
	}
	p.tracker.Changed(s.Plan(), func(int32, engine.Changes) {})
	for slot, v := range values {
		if math.Float64bits(v) != math.Float64bits(p.values[slot]) {
			t.Fatalf("%s, frame %v: slot %d is %v, and one was told of %v", at, frame, slot, v, p.values[slot])
		}
	}
}

// compared says where two plans of one composition differ at the frame that both were evaluated at last. One that
// was kept up to date may have slots that nothing asks for any more.
func compared(kept, fresh *engine.Plan) string {
	for i, item := range fresh.Layout.Items {
		for _, spec := range fresh.Layout.Specs(int32(i)) {
			if got, want := kept.ValueOf(int32(i), spec.Key), fresh.ValueOf(int32(i), spec.Key); got != want && got.String() != want.String() {
				return fmt.Sprintf("%s: %s is %s, want %s", item.Name, spec.Name, got, want)
			}
		}
		if got, want := kept.Posed(int32(i)), fresh.Posed(int32(i)); got != want && fmt.Sprint(got) != fmt.Sprint(want) {
			return fmt.Sprintf("%s stands at %v, want %v", item.Name, got, want)
		}
		if got, want := kept.World(int32(i)), fresh.World(int32(i)); got != want && fmt.Sprint(got) != fmt.Sprint(want) {
			return fmt.Sprintf("%s is seen at %v, want %v", item.Name, got, want)
		}
		if item.Kind == scene.CopiesItem {
			if got, want := copiesOf(kept, int32(i)), copiesOf(fresh, int32(i)); got != want {
				return fmt.Sprintf("the copies of %s are\n%s\nwant\n%s", item.Name, got, want)
			}
		}
	}
	return ""
}

// copiesOf tells what copies show.
func copiesOf(p *engine.Plan, i int32) string {
	var out strings.Builder
	p.Copies(i, func(c *engine.Copied) {
		item := p.Layout.Items[c.Item]
		fmt.Fprintln(&out, item.Name, c.Opacity, c.Tint, c.Tinted, c.Late, p.World(c.Item), p.Value(scene.Ref{Item: item.ID, Property: "opacity"}), p.Value(scene.Ref{Item: item.ID, Property: "size"}))
	})
	return out.String()
}
