package engine

import (
	"math"
	"testing"

	"wunderkammer/core/scene"
)

// tides is a table with a row that time moves on.
func tides() *scene.Item {
	item := &scene.Item{ID: "tides", Name: "Tides", Kind: scene.TableItem, Table: &scene.Table{Columns: []*scene.Column{
		{ID: "day", Name: "day", Texts: []string{"Mon", "Tue", "Wed"}},
		{ID: "height", Name: "height", Numbers: []float64{3.5, -1.25, 8}},
	}}}
	item.Edit("row").Links = []*scene.Link{{ID: "t", Kind: scene.Formula, Gain: 1, Formula: "1 + frame / 4"}}
	return item
}

func formulaOn(item *scene.Item, key, text string) {
	item.Edit(key).Links = []*scene.Link{{ID: scene.ID("l" + key), Kind: scene.Formula, Gain: 1, Formula: text}}
}

func TestAColumnIsWhatStandsInTheRow(t *testing.T) {
	c := scene.NewComposition("main", "Main")
	bar := &scene.Item{ID: "bar", Name: "Bar", Kind: scene.Rectangle}
	bar.Edit("rotation").Links = []*scene.Link{{ID: "r", Kind: scene.Follow, Gain: 2, Source: scene.Ref{Item: "tides", Property: "height"}}}
	formulaOn(bar, "opacity", "{@tides:@height} + delay({@tides:@height}, 2f) * 10")
	formulaOn(bar, "strokeWidth", "cell({@tides:@height}, 3) + cell({@tides:@height}, 1.5) / 10")
	formulaOn(bar, "cornerRadius", `cell({@tides:@height}, "wed") + cell({@tides:@height}, 99)`)
	bar.Edit("dash").Own = scene.Num(41) // where no row has that name
	formulaOn(bar, "dash", `cell({@tides:@height}, "Sun")`)
	formulaOn(bar, "gap", "{@tides:@rowsCount} * 7")
	sign := &scene.Item{ID: "sign", Name: "Sign", Kind: scene.TextItem}
	formulaOn(sign, "text", `text({@tides:@day}, "/", cell({@tides:@day}, 3))`)
	c.Items = []*scene.Item{tides(), bar, sign}
	p := New(c)
	for frame, want := range map[float64][6]float64{
		// rotation, opacity, stroke width, corner radius, dash, gap
		0: {7, 3.5 + 35, 8 + 0.1125, 16, 41, 21},
		2: {2 * 1.125, 1.125 + 35, 8 + 0.1125, 16, 41, 21},
		6: {2 * (-1.25 + 9.25/2), -1.25 + 9.25/2 - 12.5, 8 + 0.1125, 16, 41, 21},
		9: {16, 8 + (-1.25+9.25*0.75)*10, 8 + 0.1125, 16, 41, 21},
	} {
		p.Evaluate(frame)
		for k, key := range []string{"rotation", "opacity", "strokeWidth", "cornerRadius", "dash", "gap"} {
			w := want[k]
			if key == "opacity" {
				w = max(0, min(100, w))
			}
			if got := p.Value(scene.Ref{Item: "bar", Property: key}).At(0); math.Abs(got-w) > 1e-9 {
				t.Errorf("frame %v: %s is %v, want %v", frame, key, got, w)
			}
		}
	}
	p.Evaluate(5)
	if got := p.Value(scene.Ref{Item: "sign", Property: "text"}).Str(); got != "Tue/Wed" {
		t.Errorf("the sign says %q", got)
	}
	if got := p.Value(scene.Ref{Item: "tides", Property: "height"}).At(0); math.Abs(got-(-1.25+9.25/4)) > 1e-9 {
		t.Errorf("height itself is %v", got)
	}
}

func TestARowOfItemsReadsRowByRow(t *testing.T) {
	c := scene.NewComposition("main", "Main")
	bars := &scene.Item{ID: "bars", Name: "Bars", Kind: scene.Null}
	c.Items = []*scene.Item{tides(), bars}
	for _, id := range []scene.ID{"b1", "b2", "b3"} {
		c.Items = append(c.Items, &scene.Item{ID: id, Name: string(id), Kind: scene.Rectangle, Parent: "bars"})
	}
	c.RosterLinks = []*scene.RosterLink{{ID: "s", Roster: scene.Roster{Kind: scene.Children, Item: "bars"}, Property: "rotation",
		Link: &scene.Link{ID: "sl", Kind: scene.Formula, Gain: 1, Formula: "cell({@tides:@height}, number) * 2"}}}
	p := New(c)
	p.Evaluate(7)
	for k, want := range []float64{7, -2.5, 16} {
		if got := p.Value(scene.Ref{Item: c.Items[2+k].ID, Property: "rotation"}).At(0); got != want {
			t.Errorf("bar %d is turned by %v, want %v", k+1, got, want)
		}
	}
}
