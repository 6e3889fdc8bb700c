package demo

import (
	_ "embed"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	tables "wunderkammer/core/format/sheet"
	"wunderkammer/core/gesture/items"
	"wunderkammer/core/gesture/recipes"
	"wunderkammer/core/scene"
)

// tideTable is made up: the mean height of the tide in each month of a year, in metres, and how many ferries sail a day.
//
//go:embed tides.csv
var tideTable []byte

// tides is a year in a table: its rows stand as bars, and a buoy and two lines of text go through them with time.
func (b *builder) tides() {
	b.composition("tides", "Tide table", rgb("#e7ecea"), "The table Tides drives everything here.\nPin or drag its row: the buoy and the text\nfollow. Replace the table with a file of\nyour own: the bars show that one.")
	table, _, err := tables.Read(tideTable, "tides.csv")
	if err != nil {
		b.err = err
		return
	}
	b.gesture(&items.Add{Kind: scene.TableItem, Name: "Tides", Table: table}, evaluated)
	if b.err != nil {
		return
	}
	id := scene.ID("")
	for _, item := range b.project.Composition(b.in.Composition).Items {
		if item.Kind == scene.TableItem {
			id = item.ID
		}
	}
	b.do(&change.PinsPut{Of: change.Of{On: change.On{In: b.in, Item: id}, Property: "row"}, Pins: []scene.Pin{
		{Frame: 12, Value: scene.Num(1), Easing: curve.Smooth}, {Frame: 287, Value: scene.Num(12), Easing: curve.Smooth},
	}})
	b.gesture(&recipes.MakeRecipe{Recipe: "bars", Items: []scene.ID{id}, Values: map[string]float64{"height": 300, "width": 56, "apart": 92}}, evaluated)
	buoy := b.item(scene.Null, "Tide buoy", "", nil)
	b.formula(buoy, "position", "[({Tides: row} - 6.5) * 92, -286 + {Tides: tide} * 22 + wave(time * 0.7) * 5, 0]")
	b.formula(buoy, "rotation", "wave(time * 0.5) * 7")
	b.item(scene.Ellipse, "Buoy lamp", buoy, values{"size": scene.Pt(16, 16), "position": scene.Pt(0, 46, 0), "fill": rgb("#ffd071")})
	b.item(scene.Polygon, "Buoy body", buoy, values{"size": scene.Pt(46, 62), "sides": scene.Num(3), "position": scene.Pt(0, 14, 0), "fill": rgb("#b0413e")})
	month := b.item(scene.TextItem, "Month", "", values{"fontSize": scene.Num(92), "position": scene.Pt(60, 270, 0), "fill": rgb("#2b2630")})
	b.formula(month, "text", "{Tides: month}")
	told := b.item(scene.TextItem, "Told", "", values{"font": scene.Num(1), "fontSize": scene.Num(34), "position": scene.Pt(370, 260, 0), "fill": rgb("#3d6f78")})
	b.formula(told, "text", `text(fixed({Tides: tide}, 1), " m, ", round({Tides: ferries}), " ferries a day")`)
	b.item(scene.Rectangle, "Water", "", values{"size": scene.Pt(width+20, 140), "position": scene.Pt(0, -290, 0), "fill": rgb("#c3d6d6")})
}
