package bridge

import (
	"fmt"
	"strings"
	"testing"

	"wunderkammer/core/scene"
	"wunderkammer/core/session"
)

// The first frame of a project is given up where it is told to stop: while it is worked out, when there is nothing to draw yet, and
// while it is drawn.
func TestAFirstFrameStops(t *testing.T) {
	first := func(item *scene.Item, stop func() bool) *Frame {
		p := scene.NewProject("p", "P")
		item.Edit("rotation").Links = []*scene.Link{{ID: "l", Kind: scene.Formula, Gain: 1, Formula: "frame * 3"}}
		p.Compositions[0].Items = []*scene.Item{item}
		n := 0
		s, _ := session.Open(p, 0, nil, func() scene.ID { n++; return scene.ID(fmt.Sprint("n", n)) })
		return First(s, 0, stop)
	}
	for _, kind := range []scene.Kind{scene.Null, scene.Star} {
		asked := 0
		if f := first(&scene.Item{ID: "it", Name: "It", Kind: kind}, func() bool { asked++; return false }); f == nil {
			t.Fatalf("a %s has no first frame", kind)
		}
		for stopped := range asked {
			times := 0
			if f := first(&scene.Item{ID: "it", Name: "It", Kind: kind}, func() bool { times++; return times > stopped }); f != nil {
				t.Errorf("a %s: told to stop at the %d. time of %d, it goes on", kind, stopped+1, asked)
			}
		}
		if asked == 0 {
			t.Errorf("a %s is never asked about", kind)
		}
	}
	p := scene.NewProject("p", "P")
	for k := range 40 { // no two alike
		one := &scene.Item{ID: scene.ID(fmt.Sprint("t", k)), Name: "T", Kind: scene.TextItem}
		one.Edit("text").Own = scene.Txt(strings.Repeat("&", 3000+k))
		p.Compositions[0].Items = append(p.Compositions[0].Items, one)
	}
	s, _ := session.Open(p, 0, nil, func() scene.ID { return "made" })
	if f := First(s, 0, func() bool { return false }); f != nil {
		t.Errorf("a first frame of %d numbers is sent", len(f.Shapes))
	}
	null, star := 0, 0
	first(&scene.Item{ID: "it", Name: "It", Kind: scene.Null}, func() bool { null++; return false })
	first(&scene.Item{ID: "it", Name: "It", Kind: scene.Star}, func() bool { star++; return false })
	if star <= null {
		t.Errorf("it is asked about what is drawn %d times, without it %d", star, null)
	}
}
