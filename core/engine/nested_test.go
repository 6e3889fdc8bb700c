package engine

import (
	"fmt"
	"math"
	"testing"

	"wunderkammer/core/scene"
)

// nestedCopies are copies of copies of what copiesOf shows, of both of which each property named is driven.
func nestedCopies(outer, inner map[string]string) *scene.Composition {
	c, beads := copiesOf(10)
	beads.Edit("copiesNumber").Own = scene.Num(3)
	within := &scene.Item{ID: "inner", Name: "Inner", Kind: scene.CopiesItem, Parent: "beads", Copies: &scene.CopiesShape{Limit: 10}}
	within.Edit("copiesNumber").Own = scene.Num(2)
	c.Item("bead").Parent = "inner"
	c.Items = append(c.Items, within)
	for id, texts := range map[scene.ID]map[string]string{"beads": outer, "inner": inner} {
		for property, text := range texts {
			c.RosterLinks = append(c.RosterLinks, &scene.RosterLink{
				ID: id + scene.ID(property), Name: string(id) + property, Roster: scene.Roster{Kind: scene.CopiesOf, Item: id}, Property: property,
				Link: &scene.Link{ID: id + "l" + scene.ID(property), Kind: scene.Formula, Gain: 1, Formula: text},
			})
		}
	}
	return c
}

// Copies of copies are late by both together, and what comes after them is at the frame again.
func TestCopiesOfLateCopiesAreLateByBoth(t *testing.T) {
	c := nestedCopies(map[string]string{"copyLate": "index * 7f"}, map[string]string{"copyLate": "index * 4f"})
	p := New(c)
	p.Evaluate(83)
	got := seen(p, "beads")
	if len(got) != 3*2*2 {
		t.Fatalf("%d items are shown", len(got))
	}
	for n, s := range got {
		late := float64(n/4*7 + n/2%2*4)
		alone, _ := copiesOf(10)
		then := New(alone)
		then.Evaluate(83 - late)
		id := map[string]scene.ID{"Bead": "bead", "Tail": "tail"}[s.item]
		if want := then.Value(scene.Ref{Item: id, Property: "opacity"}).At(0); s.own != want {
			t.Errorf("%s %d, late by %v frames, has an opacity of %v, not %v", s.item, n, late, s.own, want)
		}
	}
	if p.now.frame != 83 {
		t.Errorf("afterwards it is frame %v", p.now.frame)
	}
}

// A tint of copies of copies: the outer one's is mixed in first, the inner one's into what that gives.
func TestTintsOfCopiesOfCopiesAreMixedOneAfterTheOther(t *testing.T) {
	c := nestedCopies(map[string]string{"tint": "rgb(0.9, 0.2, 0.1)", "tintStrength": "30"}, map[string]string{"tint": "rgb(0.15, 0.35, 0.8)", "tintStrength": "45"})
	p := New(c)
	p.Evaluate(0)
	own := [3]float64{0.4, 0.6, 0.7}
	seen := 0
	p.Copies(p.Layout.Index("beads"), func(copied *Copied) {
		seen++
		for n, x := range own {
			want := x + ([3]float64{0.9, 0.2, 0.1}[n]-x)*0.3
			want += ([3]float64{0.15, 0.35, 0.8}[n] - want) * 0.45
			if got := x + (copied.Tint[n]-x)*copied.Tinted; math.Abs(got-want) > 1e-12 {
				t.Errorf("component %d becomes %v, not %v", n, got, want)
			}
		}
	})
	if seen != 12 {
		t.Errorf("%d items are shown", seen)
	}
}

// A number of copies between whole ones shows so much of the last one as is left over.
func TestTheLastCopyFadesInByWhatIsLeftOver(t *testing.T) {
	c, beads := copiesOf(10)
	beads.Edit("copiesNumber").Own, beads.Edit("copiesFade").Own = scene.Num(3.2), scene.On(true)
	driveCopies(c, "opacity", "70")
	p := New(c)
	p.Evaluate(0)
	got := ""
	for _, one := range p.ShownCopies(p.Layout.Index("beads")) {
		got += fmt.Sprintf("%.3f ", one.Opacity)
	}
	if got != "0.700 0.700 0.700 0.140 " {
		t.Errorf("the copies show by %s", got)
	}
}
