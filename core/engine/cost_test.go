package engine

import (
	"fmt"
	"testing"
	"time"

	"wunderkammer/core/scene"
)

// Formulas that would ask for more of other times than can be kept or worked out are left out, and said; those that
// look the same and would not, are not.
func TestWhatWouldTakeTooLongIsLeftOut(t *testing.T) {
	chain := func(levels int, window string) string {
		text := "a0 = {Rig: N} + noise(time)\n"
		for k := 1; k <= levels; k++ {
			text += fmt.Sprintf("a%d = average(a%d, %s)\n", k, k-1, window)
		}
		return text + fmt.Sprint("a", levels)
	}
	wide := func(text string) func(c *scene.Composition) {
		return func(c *scene.Composition) {
			for k := range 200 {
				item := &scene.Item{ID: scene.ID(fmt.Sprint("m", k)), Name: fmt.Sprint("Member ", k), Kind: scene.Rectangle, Parent: "rig"}
				c.Items = append(c.Items, item)
			}
			rosterLink(t, c, &scene.RosterLink{Roster: scene.Roster{Kind: scene.Children, Item: "rig"}, Property: "opacity"}, text)
		}
	}
	single := func(text string) func(c *scene.Composition) {
		return func(c *scene.Composition) { put(c, "i0", "rotation", formed(t, c, "i0", "rotation", text)) }
	}
	for name, tried := range map[string]struct {
		make func(c *scene.Composition)
		left bool
	}{
		"one long window":             {single(chain(1, "2000f")), false},
		"three windows, whole":        {single(chain(3, "900f")), false},
		"three long windows":          {single(chain(3, "1999.5f")), true},
		"windows from a control":      {single(chain(3, "{Rig: N} * 1f")), false},
		"eight windows from a wave":   {single(chain(8, "(2 + noise(time)) * 300f")), true},
		"unequal windows":             {wide("average({self: rotation} + average({prev: opacity} else 1, index * 7.3f), index * 9.7f)"), true},
		"unequal delays":              {wide("delay({Rig: N}, index * 3f)"), false},
		"each trails the one before":  {wide("delay({prev: opacity} else {Rig: N}, {Rig: N} * 1f)"), false},
		"two looks at the one before": {wide("delay({prev: opacity} else {Rig: N}, 1f) + delay({prev: opacity} else 1, 2f)"), false},
		"added up":                    {single("accumulate(accumulate({Rig: N}))"), false},
	} {
		c := rigged()
		tried.make(c)
		p := New(c)
		start := time.Now()
		p.Evaluate(7)
		p.Evaluate(250)
		if took := time.Since(start); took > 4*time.Second {
			t.Errorf("%s: two frames took %v", name, took)
		}
		if n, by := p.LeftOut(); (n > 0) != tried.left || tried.left && (len(by) == 0 || by[0].Values < 1e6) {
			t.Errorf("%s: %d looks are left out, by %v", name, n, by)
		}
	}
}

// Whether something is left out depends on the document alone: a window that is made longer and shorter again.
func TestWhatIsLeftOutComesBack(t *testing.T) {
	c := rigged()
	put(c, "i0", "rotation", formed(t, c, "i0", "rotation", "average(average(average({Rig: N} + noise(time), {Rig: Pct} * 1.01f), {Rig: Pct} * 1.01f), {Rig: Pct} * 1.01f)"))
	p := New(c)
	value := func() scene.Value { p.Evaluate(40); return p.Value(scene.Ref{Item: "i0", Property: "rotation"}) }
	before := value()
	for _, x := range []float64{1900, 40} {
		c.Items[0].Edit("pct").Own = scene.Num(x)
		p.Patch(scene.Ref{Item: c.Items[0].ID, Property: "pct"})
		n, _ := p.LeftOut()
		fresh := New(c)
		fresh.Evaluate(40)
		if got := value(); got != fresh.Value(scene.Ref{Item: "i0", Property: "rotation"}) || (n > 0) != (x > 1000) {
			t.Errorf("at %v: %s, %d looks are left out", x, got, n)
		}
	}
	if value() != before {
		t.Error("it is not as before")
	}
}
