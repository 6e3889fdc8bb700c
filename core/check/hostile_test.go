package check_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"runtime"
	"runtime/debug"
	"strings"
	"syscall"
	"testing"
	"time"

	"wunderkammer/core/bridge"
	"wunderkammer/core/check"
	"wunderkammer/core/curve"
	"wunderkammer/core/engine"
	"wunderkammer/core/format/svg"
	"wunderkammer/core/rehearse"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
	"wunderkammer/core/view"
)

// composition is one with so many items of a kind, each made by alter.
func composition(n int, kind scene.Kind, alter func(k int, item *scene.Item)) *scene.Composition {
	c := scene.NewComposition("main", "Main")
	for k := range n {
		item := &scene.Item{ID: scene.ID(fmt.Sprint("i", k)), Name: "a", Kind: kind}
		if alter != nil {
			alter(k, item)
		}
		c.Items = append(c.Items, item)
	}
	return c
}

func row(c *scene.Composition, k int, r scene.Roster, property, text string) {
	c.RosterLinks = append(c.RosterLinks, &scene.RosterLink{ID: scene.ID(fmt.Sprint("r", k)), Name: "Row", Roster: r, Property: property, Link: &scene.Link{ID: scene.ID(fmt.Sprint("l", k)), Kind: scene.Formula, Gain: 1, Formula: text}})
}

// hostile are documents that are small when they are packed, and ask for much.
var hostile = map[string]func() *scene.Composition{
	"rows by name over all items": func() *scene.Composition {
		c := composition(20000, scene.Null, nil)
		for k := range 1000 {
			row(c, k, scene.Roster{Kind: scene.Named, Pattern: "a*"}, "rotation", "own + 1")
		}
		return c
	},
	"patterns of many wildcards": func() *scene.Composition {
		c := composition(2000, scene.Null, func(_ int, item *scene.Item) { item.Name = strings.Repeat("a", 199) })
		for k := range 500 {
			row(c, k, scene.Roster{Kind: scene.Named, Pattern: strings.Repeat("*a", 90) + fmt.Sprint("b", k)}, "rotation", "own + 1")
		}
		return c
	},
	"all below all below all": func() *scene.Composition {
		c := composition(3000, scene.Null, func(k int, item *scene.Item) {
			if k > 0 {
				item.Parent = scene.ID(fmt.Sprint("i", k-1))
			}
		})
		for k := range 40 {
			row(c, k, scene.Roster{Kind: scene.Chain, Of: &scene.Roster{Kind: scene.Chain, Item: "i0"}}, "opacity", "own - 1")
		}
		return c
	},
	"long texts": func() *scene.Composition {
		return composition(40, scene.TextItem, func(k int, item *scene.Item) {
			item.Edit("text").Own = scene.Txt(strings.Repeat(string(rune('A'+k%26))+"&@§Bg8", 860))
		})
	},
	"a path of many vertices, copied often": func() *scene.Composition {
		c := composition(2, scene.PathItem, func(k int, item *scene.Item) {
			if k == 0 {
				item.Kind, item.Copies = scene.CopiesItem, &scene.CopiesShape{Limit: 5000}
				item.Edit("copiesNumber").Own = scene.Num(5000)
				return
			}
			item.Parent, item.Path = "i0", &scene.PathShape{Contours: []scene.Contour{{}}}
			for v := range 20000 {
				item.Path.Contours[0].Vertices = append(item.Path.Contours[0].Vertices, scene.Vertex{ID: v + 1, At: [2]float64{float64(v % 100), float64(v / 100)}})
			}
		})
		return c
	},
	"a graph of many slips on a long row": func() *scene.Composition {
		c := composition(2000, scene.Null, nil)
		text := "time"
		for range 850 {
			text = "wave(" + text + ")"
			if len(text) > 300 {
				break
			}
		}
		row(c, 1, scene.Roster{Kind: scene.Named, Pattern: "*"}, "rotation", strings.Repeat(text+" + ", 20)+"1")
		return c
	},
	"poses of many properties": func() *scene.Composition {
		c := composition(400, scene.Rectangle, func(k int, item *scene.Item) {
			for _, key := range []string{"rotation", "opacity", "strokeWidth", "cornerRadius"} {
				l := &scene.Link{ID: scene.ID(fmt.Sprint("l", key[:2], k)), Kind: scene.Posed, Gain: 1, Source: scene.Ref{Item: "rig", Property: "hour"}}
				for stop := range 20 {
					l.Held = append(l.Held, scene.Held{Stop: scene.ID(fmt.Sprint("s", stop)), Value: scene.Num(float64(stop * k % 91))})
				}
				item.Edit(key).Links = []*scene.Link{l}
			}
		})
		rig := &scene.Item{ID: "rig", Name: "Rig", Kind: scene.Null, Controls: []*scene.Control{{ID: "hour", Name: "Hour", Kind: scene.Fader, SoftMax: 20, Default: scene.Num(3)}}}
		for stop := range 20 {
			rig.Controls[0].Poses = append(rig.Controls[0].Poses, scene.PoseStop{ID: scene.ID(fmt.Sprint("s", stop)), Name: "S", At: float64(stop), Easing: curve.Linear})
		}
		for k := range 30 {
			rig.Controls = append(rig.Controls, &scene.Control{ID: scene.ID(fmt.Sprint("f", k)), Name: "F", Kind: scene.Fader, SoftMax: 9, Default: scene.Num(3)})
		}
		c.Items = append(c.Items, rig)
		return c
	},
	"formulas that look far back": func() *scene.Composition {
		return composition(3000, scene.Null, func(k int, item *scene.Item) {
			item.Edit("rotation").Links = []*scene.Link{{ID: scene.ID(fmt.Sprint("l", k)), Kind: scene.Formula, Gain: 1,
				Formula: fmt.Sprintf("average({@i%d:@opacity} + time, 200s) + delay(average({@i%d:@opacity}, 100s), 50s)", (k+1)%3000, (k+7)%3000)}}
		})
	},
}

// processor returns the time that processors have worked for the test so far.
func processor(t *testing.T) time.Duration {
	var u syscall.Rusage
	if err := syscall.Getrusage(syscall.RUSAGE_SELF, &u); err != nil {
		t.Fatal(err)
	}
	return time.Duration(u.Utime.Nano() + u.Stime.Nano())
}

// What any document of less than a megabyte, packed, asks for is bounded: the memory of a small server and a time in which
// nobody gives up, in opening, drawing, checking and rehearsing it.
func TestWhatIsAskedForIsBounded(t *testing.T) {
	if testing.Short() {
		t.Skip("it takes a while")
	}
	for name, made := range hostile {
		p := scene.NewProject("p", "P")
		p.Compositions[0] = made()
		if err := p.Check(); err != nil {
			t.Fatalf("%s: %v", name, err)
		}
		for _, work := range []struct {
			name string
			do   func(c *scene.Composition, stop func() bool)
		}{
			{"opening", func(c *scene.Composition, stop func() bool) {
				own := *p
				own.Compositions = []*scene.Composition{c}
				s, _ := session.Open(&own, 1, nil, func() scene.ID { return "made" })
				v, texts := view.Opened(s, 0)
				var b bytes.Buffer
				json.NewEncoder(&b).Encode(v)
				bridge.First(s, texts, stop)
			}},
			{"drawing", func(c *scene.Composition, stop func() bool) {
				plan := engine.Stoppable(c, stop)
				plan.Evaluate(3)
				svg.Frame(c, plan, true)
			}},
			{"checking", func(c *scene.Composition, stop func() bool) {
				plan := engine.New(c)
				plan.Evaluate(0)
				check.Deep(c, plan)
			}},
			{"rehearsing", func(c *scene.Composition, stop func() bool) {
				for range rehearse.New(c, rehearse.Options{}).Run() {
					if stop() {
						return
					}
				}
			}},
		} {
			debug.FreeOSMemory()
			var before runtime.MemStats
			runtime.ReadMemStats(&before)
			peak, done := uint64(0), make(chan struct{})
			finished := false
			start, worked := time.Now(), processor(t)
			go func() {
				defer close(done)
				defer func() {
					if cause := recover(); cause != nil && cause != engine.Stopped {
						t.Errorf("%s, %s: %v", name, work.name, cause)
					}
				}()
				work.do(p.Clone().Compositions[0], func() bool { return time.Since(start) > 10*time.Second })
				finished = true
			}()
		watching:
			for {
				select {
				case <-done:
					break watching
				case <-time.After(20 * time.Millisecond):
					var now runtime.MemStats
					runtime.ReadMemStats(&now)
					peak = max(peak, now.HeapAlloc)
				}
			}
			took := min(time.Since(start), processor(t)-worked) // of a processor that is free for it
			t.Logf("%s, %s: %v, %d MB, finished %v", name, work.name, took.Round(time.Millisecond), (peak-min(peak, before.HeapAlloc))>>20, finished)
			if took > 25*time.Second || peak > 2500<<20 {
				t.Errorf("%s: %s takes %v and %d MB", name, work.name, took, peak>>20)
			}
		}
	}
}
