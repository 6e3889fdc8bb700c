package recipes

import (
	"fmt"
	"math"

	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
)

// mostBars bounds the rows of a table that become bars.
const mostBars = 200

// The choices of labels, by number.
const (
	namesAndValues = iota
	namesOnly
)

// bars draws a column of a table: a bar for each row, as high as its number, on a common line, with labels. They stand on a null
// with two faders: how high one is, and how far they have risen.
func bars(c *gesture.Context, items []*scene.Item, v values) (gesture.Result, error) {
	table := items[0]
	if table.Table == nil {
		return gesture.Result{}, fmt.Errorf("select a table for it first; + Add brings one in, from CSV or JSON")
	}
	numbers, words := columns(table.Table), table.Table.Words()
	switch {
	case len(numbers) == 0:
		return gesture.Result{}, fmt.Errorf("%s has no column of numbers", table.Name)
	case v["column"] < 1 || int(v["column"]) > len(numbers):
		return gesture.Result{}, fmt.Errorf("%s has %s of numbers; choose one of them by its number", table.Name, gesture.Plural(len(numbers), "column"))
	case table.Table.Rows() > mostBars:
		return gesture.Result{}, fmt.Errorf("%s has %d rows; at most %d become bars", table.Name, table.Table.Rows(), mostBars)
	case v["height"] <= 0 || v["width"] <= 0:
		return gesture.Result{}, fmt.Errorf("a bar is more than 0 px wide and high")
	}
	column := numbers[int(v["column"])-1]
	largest := 0.0
	for _, x := range column.Numbers {
		largest = max(largest, math.Abs(x))
	}
	scale := significant(v["height"] / max(largest, 1e-9))
	r := gesture.NewRig(c)
	high := &scene.Control{ID: c.NewID(), Name: "Height of one", Kind: scene.Fader, Unit: scene.Pixels, SoftMax: significant(1.25 * scale), Default: scene.Num(scale)}
	rise := r.Fader("Rise", 100)
	null := r.Null(column.Name+" bars", [3]float64{0, -v["height"] / 2, 0}, high, rise)
	v["scale"] = scale
	value := fmt.Sprintf("cell({@%s:@%s}, number)", table.ID, column.ID)
	tall := fmt.Sprintf("%s * %s * %s / 100", value, reading(null, high), reading(null, rise))
	const across = "(number - (count + 1) / 2) * %apart"
	line := func(kind scene.Kind, name string, begin func(*scene.Item)) scene.Roster {
		out := scene.Roster{Kind: scene.Picked}
		for k := range table.Table.Rows() {
			one := r.Item(kind, fmt.Sprintf("%s %d", name, k+1))
			one.Parent = null.ID
			begin(one)
			r.Add(one, -1)
			out.Items = append(out.Items, one.ID)
		}
		return out
	}
	drawn := line(scene.Rectangle, column.Name+" bar", func(one *scene.Item) { one.Edit("fill").Own = scene.RGBA(0.24, 0.5, 0.47, 1) })
	r.Row(column.Name+": height", drawn, "size", v.filled("[%width, abs("+tall+")]"))
	r.Row(column.Name+": place", drawn, "position", v.filled("["+across+", "+tall+" / 2, 0]"))
	word := func(one *scene.Item) {
		one.Edit("font").Own, one.Edit("fontSize").Own = scene.Num(1), scene.Num(math.Round(max(12, v["width"]*0.42)))
		one.Edit("fill").Own = scene.RGBA(0.17, 0.15, 0.19, 1)
	}
	how := int(v["labels"])
	if how <= namesOnly && words != nil {
		names := line(scene.TextItem, column.Name+" name", word)
		r.Row(column.Name+": names", names, "text", fmt.Sprintf("cell({@%s:@%s}, number)", table.ID, words.ID))
		r.Row(column.Name+": places of names", names, "position", v.filled("["+across+", min(0, "+tall+") - 30, 0]"))
	}
	if how == namesAndValues {
		shown := line(scene.TextItem, column.Name+" value", word)
		r.Row(column.Name+": values", shown, "text", "text(round("+value+", 1))")
		r.Row(column.Name+": places of values", shown, "position", v.filled("["+across+", max(0, "+tall+") + 24, 0]"))
	}
	r.Note = fmt.Sprintf("pin Rise of %s to let the bars grow; replace the table to have them show another", null.Name)
	return r.Result, nil
}

// significant rounds a number above 0 to four digits.
func significant(x float64) float64 {
	p := math.Pow10(3 - int(math.Floor(math.Log10(x))))
	return math.Round(x*p) / p
}

// columns returns the columns of a table that hold numbers.
func columns(t *scene.Table) (numbers []*scene.Column) {
	for _, c := range t.Columns {
		if len(c.Numbers) > 0 {
			numbers = append(numbers, c)
		}
	}
	return numbers
}
