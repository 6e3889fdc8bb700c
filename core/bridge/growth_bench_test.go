package bridge

import (
	"encoding/json"
	"fmt"
	"math"
	"runtime"
	"slices"
	"strings"
	"testing"
	"time"

	"wunderkammer/core/scene"
)

// grown is a project of n rectangles whose opacity follows a control, every other one turned by a formula besides.
func grown(n int) []byte {
	rig := &scene.Item{ID: "rig", Name: "Rig", Kind: scene.Null, Controls: []*scene.Control{{ID: "amount", Name: "Amount", Kind: "fader", Default: scene.Num(37)}}}
	n-- // with the rig
	c := &scene.Composition{ID: "main", Name: "Main", Width: 1280, Height: 720, Rate: 25, Frames: 300, Background: scene.RGBA(0, 0, 0, 1), Items: []*scene.Item{rig}}
	for i := range n {
		item := &scene.Item{ID: scene.ID(fmt.Sprintf("n%d", i)), Name: fmt.Sprint("Crate ", i+1), Kind: scene.Rectangle}
		item.Edit("opacity").Links = []*scene.Link{{ID: scene.ID(fmt.Sprintf("f%d", i)), Kind: scene.Follow, Gain: 0.7, Source: scene.Ref{Item: "rig", Property: "amount"}}}
		if i%2 == 1 {
			item.Edit("rotation").Links = []*scene.Link{{ID: scene.ID(fmt.Sprintf("t%d", i)), Kind: scene.Formula, Gain: 1, Formula: fmt.Sprintf("{@rig:@amount} * 0.3 + %d", i%7)}}
		}
		c.Items = append(c.Items, item)
	}
	text, err := json.Marshal(map[string]any{"revision": 1, "project": scene.Project{ID: "p", Name: "P", Compositions: []*scene.Composition{c}}})
	if err != nil {
		panic(err)
	}
	return text
}

// page is what a page does: calls of which each must be answered without an error, and the frame that comes of it.
type page struct {
	testing.TB
	*Bridge
	n, changes int
}

// pageOf is a page that has opened a document of n items, and has its first frame.
func pageOf(tb testing.TB, document []byte, n int) *page {
	p := &page{TB: tb, Bridge: &Bridge{}, n: n}
	if text := p.Open(document, []byte("[]")); !strings.HasPrefix(text, `{"result":`) {
		tb.Fatalf("%.300s", text)
	}
	p.Evaluate(0)
	return p
}

// do makes a gesture and works out the frame.
func (p *page) do(name string, with any) {
	data, err := json.Marshal(with)
	if err != nil {
		p.Fatal(err)
	}
	p.changes++
	p.ask("do", map[string]any{"gesture": name, "with": json.RawMessage(data), "frame": 0, "id": fmt.Sprint("change", p.changes)})
	p.Evaluate(0)
}

func (p *page) ask(method string, with any) {
	data, err := json.Marshal(with)
	if err != nil {
		p.Fatal(err)
	}
	text := p.Call(method, data)
	if end := text[max(0, len(text)-2000):]; !strings.HasPrefix(text, `{"result":`) || strings.Contains(end, `"error":"`) {
		p.Fatalf("%s: %.300s … %s", method, text, end)
	}
}

type o = map[string]any

func (p *page) ids(step int) (out []string) {
	for i := 0; i < p.n-1; i += step {
		out = append(out, fmt.Sprintf("n%d", i))
	}
	return out
}

func (p *page) all(property string) (out []o) {
	for _, id := range p.ids(1) {
		out = append(out, o{"item": id, "property": property})
	}
	return out
}

// each makes an operation for each item, of which the rest is written by one.
func (p *page) each(write func(k int, one o)) {
	var ops []o
	for k, id := range p.ids(1) {
		one := o{"composition": "main", "item": id, "property": "opacity"}
		write(k, one)
		ops = append(ops, one)
	}
	p.operations(ops...)
}

func (p *page) linked() {
	p.do("link", o{"source": o{"item": "rig", "property": "amount"}, "targets": p.all("strokeWidth"), "fromHere": false, "single": true})
}

func (p *page) linkOn(item, property string) {
	p.do("link", o{"source": o{"item": "rig", "property": "amount"}, "targets": []o{{"item": item, "property": property}}, "fromHere": false})
}

func (p *page) formulaOn7(text string) {
	p.do("formula", o{"targets": []o{{"item": "n7", "property": "rotation"}}, "text": text, "link": "t7"})
}

func (p *page) operations(ops ...o) { p.do("operations", o{"ops": ops}) }

// growing are gestures on many items, each made on a project of its own. Before it something may be done that is not counted.
var growing = []struct {
	name   string
	hand   func(p *page)
	before func(p *page)
	half   bool // of as many items, so that there are as many afterwards
}{
	{name: "a value for all", hand: func(p *page) { p.do("set", o{"targets": p.all("strokeWidth"), "value": 7.3}) }},
	{name: "all pinned", hand: func(p *page) { p.do("pin", o{"targets": p.all("position"), "toggle": true}) }},
	{name: "all duplicated", half: true, hand: func(p *page) { p.do("duplicate", o{"items": p.ids(1)}) }},
	{name: "all duplicated, set apart", half: true, hand: func(p *page) { p.do("duplicate", o{"items": p.ids(1), "by": []float64{13, 7, 0}}) }},
	{name: "all linked, one link each", hand: (*page).linked},
	{name: "all linked, undone", before: (*page).linked, hand: func(p *page) { p.ask("undo", "u"); p.Evaluate(0) }},
	{name: "all linked, as a row", hand: func(p *page) {
		p.do("link", o{"source": o{"item": "rig", "property": "amount"}, "targets": p.all("strokeWidth"), "fromHere": false})
	}},
	{name: "a formula on each", hand: func(p *page) {
		p.do("formula", o{"targets": p.all("strokeWidth"), "text": "{Rig: Amount} * 0.1 + index"})
	}},
	{name: "all links off", hand: func(p *page) {
		p.each(func(k int, one o) {
			one["op"], one["link"] = "link.set", o{"id": fmt.Sprintf("f%d", k), "kind": "follow", "gain": 0.7, "source": o{"item": "rig", "property": "amount"}, "off": true}
		})
	}},
	{name: "all links removed", hand: func(p *page) {
		p.each(func(k int, one o) { one["op"], one["link"] = "link.remove", fmt.Sprintf("f%d", k) })
	}},
	{name: "all hidden", hand: func(p *page) {
		p.each(func(k int, one o) {
			delete(one, "property")
			one["op"], one["hidden"] = "item.set", true
		})
	}},
	{name: "all attached to a null", hand: func(p *page) { p.do("attach", o{"items": p.ids(1), "parent": "rig"}) }},
	{name: "all grouped", half: true, hand: func(p *page) { p.do("group", o{"items": p.ids(1)}) }},
	{name: "every other one put last", hand: func(p *page) { p.do("order", o{"items": p.ids(2), "parent": "", "before": ""}) }},
	{name: "every other one removed", hand: func(p *page) { p.do("remove", o{"items": p.ids(2)}) }},
	{name: "one item removed", hand: func(p *page) { p.do("remove", o{"items": []string{"n7"}}) }},
	{name: "one link added", hand: func(p *page) { p.linkOn("n8", "rotation") }},
	{name: "the first link on a property", hand: func(p *page) { p.linkOn("n8", "strokeWidth") }},
	{name: "one formula added", hand: func(p *page) {
		p.do("formula", o{"targets": []o{{"item": "n8", "property": "rotation"}}, "text": "{Rig: Amount} * 0.3"})
	}},
	{name: "one formula changed", before: func(p *page) { p.formulaOn7("{Rig: Amount} * 0.3") }, hand: func(p *page) { p.formulaOn7("{Rig: Amount} * 0.4 + 2") }},
	{name: "a control renamed", hand: func(p *page) {
		p.operations(o{"op": "control.set", "composition": "main", "item": "rig", "value": o{"id": "amount", "name": "Strength", "kind": "fader", "default": 37}})
	}},
	{name: "a control set", hand: func(p *page) { p.do("set", o{"targets": []o{{"item": "rig", "property": "amount"}}, "value": 41.3}) }},
	{name: "problems looked for", hand: func(p *page) { p.ask("survey", nil) }},
}

// BenchmarkGrowth makes gestures on 1,000, 10,000 and 100,000 items, from the call to the frame that comes of it, and says
// how they grow: the slope of the logarithms from the second to the last. BenchmarkGrowth/opened says what a project holds.
func BenchmarkGrowth(b *testing.B) {
	sizes := []int{1000, 10000, 100000}
	documents := map[int][]byte{}
	open := func(b *testing.B, n int) *page {
		if documents[n] == nil {
			documents[n] = grown(n)
		}
		return pageOf(b, documents[n], n)
	}
	report := func(b *testing.B, took []float64) {
		for k, ms := range took {
			b.ReportMetric(ms, fmt.Sprintf("ms/%d", sizes[k]))
		}
		if len(took) == len(sizes) {
			b.ReportMetric(math.Log10(took[2]/took[1]), "slope")
		}
		b.ReportMetric(0, "ns/op")
	}
	timed := func(run func()) float64 {
		runtime.GC()
		begin := time.Now()
		run()
		return float64(time.Since(begin).Microseconds()) / 1000
	}
	b.Run("opened", func(b *testing.B) {
		var took []float64
		for _, n := range sizes {
			var before, after runtime.MemStats
			runtime.GC()
			runtime.ReadMemStats(&before)
			var p *page
			took = append(took, timed(func() { p = open(b, n) }))
			runtime.GC()
			runtime.ReadMemStats(&after)
			b.ReportMetric(float64(after.HeapAlloc-before.HeapAlloc)/1e6, fmt.Sprintf("MB/%d", n))
			runtime.KeepAlive(p)
		}
		report(b, took)
	})
	for _, g := range growing {
		b.Run(g.name, func(b *testing.B) {
			var took []float64
			for _, n := range sizes {
				runs := 3
				if n > 10000 {
					runs = 1
				}
				if g.half {
					n /= 2
				}
				var each []float64
				for range runs {
					p := open(b, n)
					if g.before != nil {
						g.before(p)
					}
					each = append(each, timed(func() { g.hand(p) }))
				}
				took = append(took, slices.Min(each))
				if took[len(took)-1] > 3000 { // longer ones tell nothing that this doesn't
					break
				}
			}
			report(b, took)
		})
	}
}
