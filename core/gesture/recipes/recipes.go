// Package recipes makes rigs that practitioners build by hand again and again, out of the other gestures: each is a value with its
// form. Rigs of a project are kept as recipes, too, and made again elsewhere.
package recipes

import (
	"fmt"
	"math"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/wiring"
	"wunderkammer/core/scene"
)

// Recipe is a rig in one step on what is selected, out of ordinary items, links and formulas: nothing in it is special, and
// everything can be edited after. The table of them is what the form on the page reads; docs/rigs.md lists them.
type Recipe struct {
	Key    string        `json:"key"`
	Name   string        `json:"name"`
	Help   string        `json:"help"`
	Fields []RecipeField `json:"fields"`
	Least  int           `json:"least"` // how many items it needs

	make func(c *gesture.Context, items []*scene.Item, v values) (gesture.Result, error)
}

// RecipeField is a number of the form of a recipe, or a choice among options.
type RecipeField struct {
	Key     string   `json:"key"`
	Name    string   `json:"name"`
	Unit    string   `json:"unit,omitempty"`
	Default float64  `json:"default"`
	Options []string `json:"options,omitempty"`
	// Optional fields can be left out, and some are at first.
	Optional bool `json:"optional,omitempty"`
	Off      bool `json:"off,omitempty"`
}

// values is what a form says, by the keys of its fields.
type values map[string]float64

// text writes a value as formulas have it.
func (v values) text(key string) string {
	if v[key] < 0 {
		return "(" + scene.Exact(v[key]) + ")"
	}
	return scene.Exact(v[key])
}

// Recipes lists all recipes, in the order of the list.
var Recipes = []*Recipe{
	{"sweep in", "Sweep in", "A zone passes over the row; items outside it take these values.", []RecipeField{
		{Key: "scale", Name: "Scale from", Unit: "%", Optional: true}, {Key: "rotation", Name: "Rotation from", Unit: "°", Default: -90, Optional: true, Off: true},
		{Key: "rise", Name: "Rise from below", Unit: "px", Default: 120, Optional: true}, {Key: "opacity", Name: "Opacity from", Unit: "%", Optional: true, Off: true},
		{Key: "falloff", Name: "Falloff", Unit: "px", Default: 300}, {Key: "curve", Name: "Curve", Default: 3, Options: scene.ZoneCurves},
	}, 1, sweepIn},
	{"trail", "Trail", "Each item follows the one before it, later and set apart.", []RecipeField{
		{Key: "what", Name: "Property", Options: []string{"position", "rotation", "scale"}},
		{Key: "late", Name: "Delay per item", Unit: "frames", Default: 4}, {Key: "x", Name: "Spacing x", Default: 100}, {Key: "y", Name: "Spacing y"},
	}, 2, trail},
	{"wave", "Wave along a row", "A wave runs along the row.", []RecipeField{
		{Key: "what", Name: "Property", Options: []string{"position y", "rotation", "scale", "opacity"}},
		{Key: "size", Name: "Size", Default: 40}, {Key: "period", Name: "Seconds per wave", Unit: "s", Default: 2}, {Key: "waves", Name: "Waves along the row", Default: 1},
	}, 2, func(c *gesture.Context, items []*scene.Item, v values) (gesture.Result, error) {
		if v["period"] <= 0 {
			return gesture.Result{}, fmt.Errorf("a wave takes more than 0 seconds")
		}
		const wave = "wave(time / %period - share * %waves)"
		what := []string{"position", "rotation", "scale", "opacity"}[int(v["what"])]
		text := map[string]string{
			"position": "below + [0, " + wave + " * %size, 0]", "rotation": "below + " + wave + " * %size",
			"scale": "below * (1 + " + wave + " * %size / 100)", "opacity": "below * (1 - (0.5 + 0.5 * " + wave + ") * %size / 100)",
		}[what]
		return row(c, items, what, "wave", text, v)
	}},
	{"flicker", "Flicker", "Each item flickers by itself, smoothly or held for frames.", []RecipeField{
		{Key: "depth", Name: "Dim by", Unit: "%", Default: 60}, {Key: "speed", Name: "Flickers per second", Default: 3}, {Key: "held", Name: "Held for", Unit: "frames"},
	}, 1, flicker},
	{"spread over", "Spread over", "A ramp of values over the row, from the first item to the last.", []RecipeField{
		{Key: "what", Name: "Property", Options: []string{"rotation", "position x", "position y", "scale", "opacity"}},
		{Key: "from", Name: "First value"}, {Key: "to", Name: "Last value", Default: 90},
	}, 2, func(c *gesture.Context, items []*scene.Item, v values) (gesture.Result, error) {
		const ramp = "mix(%from, %to, share)"
		what := []string{"rotation", "position", "position", "scale", "opacity"}[int(v["what"])]
		text := []string{"below + " + ramp, "below + [" + ramp + ", 0, 0]", "below + [0, " + ramp + ", 0]", "below * (" + ramp + " / 100)", "below * (" + ramp + " / 100)"}[int(v["what"])]
		return row(c, items, what, "spread over", text, v)
	}},
	{"orbit", "Orbit", "The items circle their shared centre, evenly spaced.", []RecipeField{
		{Key: "radius", Name: "Radius", Unit: "px", Default: 200}, {Key: "period", Name: "Seconds per turn", Unit: "s", Default: 8},
	}, 1, func(c *gesture.Context, items []*scene.Item, v values) (gesture.Result, error) {
		if v["period"] == 0 {
			return gesture.Result{}, fmt.Errorf("a turn takes some time: more than 0 seconds, or less than 0 to go the other way")
		}
		var x, y float64
		for _, item := range items {
			at := c.Plan().Own(item.ID, "position")
			x, y = x+at.At(0)/float64(len(items)), y+at.At(1)/float64(len(items))
		}
		v["mx"], v["my"] = math.Round(x), math.Round(y)
		const turn = "turn = (index / count + time / %period) * 360\n"
		return row(c, items, "position", "orbit", turn+"[%mx + %radius * cos(turn), %my + %radius * sin(turn), own.z]", v)
	}},
	{"aim at", "Aim at", "The items turn toward the one that was selected last.", []RecipeField{
		{Key: "turn", Name: "Extra rotation", Unit: "°"},
	}, 2, aimAt},
	{"gear ratio", "Gear ratio", "Each item counter-rotates against the one before.", []RecipeField{
		{Key: "by", Name: "Ratio from", Options: []string{"their sizes", "this number"}}, {Key: "ratio", Name: "Ratio", Default: 0.5},
	}, 2, gears},
	{"along a path", "Along a path", "The items stand along the path among them, or travel along it.", []RecipeField{
		{Key: "from", Name: "First at", Unit: "%"}, {Key: "to", Name: "Last at", Unit: "%", Default: 100},
		{Key: "turned", Name: "Rotation", Options: []string{"aligned to the path", "as it is"}},
		{Key: "period", Name: "Seconds per round", Unit: "s", Default: 8, Optional: true, Off: true},
	}, 2, alongPath},
	{"rows that trail", "Rows that trail", "Select the first joint of each chain. Each joint follows the one before it, each chain the chain before.", []RecipeField{
		{Key: "joints", Name: "Delay per joint", Unit: "frames", Default: 3}, {Key: "rows", Name: "Delay per chain", Unit: "frames", Default: 4}, {Key: "share", Name: "Turn per joint", Unit: "%", Default: 100},
		{Key: "wave", Name: "First joint waves by", Unit: "°", Default: 20, Optional: true}, {Key: "period", Name: "Seconds per wave", Unit: "s", Default: 2},
	}, 1, trailingRows},
	{"cast shadows", "Cast shadows", "A lamp, a floor, and a shadow of each item on it. A light among the items is the lamp.", []RecipeField{
		{Key: "strength", Name: "Strength", Unit: "%", Default: 45}, {Key: "flat", Name: "Slant of the floor", Unit: "%", Default: 30}, {Key: "longest", Name: "Longest", Unit: "%", Default: 300},
	}, 1, castShadows},
	{"sequence", "Sequence", "One fader brings in one item after the other.", []RecipeField{
		{Key: "what", Name: "Property", Options: []string{"opacity", "scale", "trim end"}}, {Key: "overlap", Name: "Overlap", Unit: "%", Default: 50},
	}, 2, sequence},
	{"stretch between", "Stretch between", "The first item reaches from the second to the third, wherever they go.", []RecipeField{
		{Key: "volume", Name: "Thickness", Options: []string{"as it is", "less when longer"}},
	}, 3, stretchBetween},
	{"gather controls", "Gather controls", "A property of all items becomes controls on one null.", []RecipeField{
		{Key: "what", Name: "Property", Options: []string{"rotation", "position", "scale", "opacity", "fill", "stroke width"}},
	}, 1, gathered},
	{"scrub frames", "Scrub frames", "One fader scrubs all frames of the flipbooks.", []RecipeField{
		{Key: "apart", Name: "Offset per item", Unit: "frames"},
	}, 1, scrub},
	{"loosen", "Loosen", "How firmly items hang on their parents, on one fader.", []RecipeField{
		{Key: "hold", Name: "Hold", Unit: "%", Default: 60}, {Key: "less", Name: "Less per item", Unit: "%"},
	}, 1, loosen},
	{"bars", "Bars of a table", "A bar for each row of a column, as high as its number, with its name and its value.", []RecipeField{
		{Key: "column", Name: "Column of numbers", Default: 1}, {Key: "height", Name: "Tallest", Unit: "px", Default: 320},
		{Key: "width", Name: "Width", Unit: "px", Default: 44}, {Key: "apart", Name: "Spacing", Unit: "px", Default: 72},
		{Key: "labels", Name: "Labels", Options: []string{"names and values", "names", "none"}},
	}, 1, bars},
	{"keep line widths", "Keep line widths", "Lines keep the width they have now, however the items and their children are scaled.", nil, 1, keepWidths},
}

// row puts one formula on a property of all items that have it; %key in the text is the value of a field.
func row(c *gesture.Context, items []*scene.Item, property, name, text string, v values) (gesture.Result, error) {
	roster, err := rowOf(items, property)
	if err != nil {
		return gesture.Result{}, err
	}
	text = v.filled(text)
	s := &scene.RosterLink{
		ID: c.NewID(), Roster: roster, Property: property,
		Link: &scene.Link{ID: c.NewID(), Kind: scene.Formula, Gain: 1},
	}
	s.Name = gesture.ClipName(name + ": " + items[0].Name)
	if cycle := wiring.WriteRow(c, s, text); cycle != nil {
		return gesture.Result{}, fmt.Errorf("this would create a loop: %s", cycle)
	}
	return gesture.Result{Ops: change.Ops{&change.RosterLinkAdd{In: c.In(), Value: s, At: -1}}, Made: []scene.ID{s.ID}}, nil
}

// MakeRecipe makes a rig on items.
type MakeRecipe struct {
	Recipe string     `json:"recipe"`
	Items  []scene.ID `json:"items"` // for one of the project: what takes the places of its slots, in order
	// Values are those of the form; what is absent of an optional field is left alone, of any other it is as it begins.
	Values map[string]float64 `json:"values"`
}

// Do returns the operations that make it.
func (g *MakeRecipe) Do(c *gesture.Context) (gesture.Result, error) {
	for _, recipe := range Recipes {
		if recipe.Key != g.Recipe {
			continue
		}
		if len(g.Items) < recipe.Least {
			return gesture.Result{}, fmt.Errorf("select %s for it first", gesture.Plural(recipe.Least, "item")+" at least")
		}
		items := make([]*scene.Item, len(g.Items))
		for k, id := range g.Items {
			item, err := c.Item(id)
			if err != nil {
				return gesture.Result{}, err
			}
			items[k] = item
		}
		v := values{}
		for _, f := range recipe.Fields {
			x, ok := g.Values[f.Key]
			switch {
			case !ok && f.Optional:
				continue
			case !ok:
				x = f.Default
			case x-x != 0:
				return gesture.Result{}, fmt.Errorf("%s must be a number", f.Name)
			case len(f.Options) > 0 && (x != math.Trunc(x) || x < 0 || x >= float64(len(f.Options))):
				return gesture.Result{}, fmt.Errorf("%s has no option %s", f.Name, scene.Exact(x))
			}
			v[f.Key] = x
		}
		return recipe.make(c, items, v)
	}
	for _, saved := range c.Recipes {
		if string(saved.ID) == g.Recipe {
			return makeSaved(c, saved, g.Items, g.Values)
		}
	}
	return gesture.Result{}, fmt.Errorf("there is no recipe named %q", scene.Clip(g.Recipe))
}
