package copies

import (
	"fmt"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/wiring"
	"wunderkammer/core/outline"
	"wunderkammer/core/scene"
)

// Letters takes a text apart: every letter becomes a text of its own that hangs on it, looks as it does
// and stands where it stood, so that the letters are a row that links can be spread over. The text itself
// is left empty.
type Letters struct {
	Item scene.ID `json:"item"`
}

// maxLetters bounds the letters of one text that is taken apart.
const maxLetters = 500

// Do returns the operations that add the letters and empty the text.
func (g *Letters) Do(c *gesture.Context) (gesture.Result, error) {
	item, err := c.Item(g.Item)
	if err != nil {
		return gesture.Result{}, err
	}
	if item.Kind != scene.TextItem {
		return gesture.Result{}, fmt.Errorf("%s is not a text, so it can't be split into letters", item.Name)
	}
	words := item.State("text")
	if len(words.Links)+len(words.Pins) > 0 || c.Planned.Driven(item.ID, "text") {
		return gesture.Result{}, fmt.Errorf("the text of %s changes over time; remove its pins and links first", item.Name)
	}
	n := func(key string) float64 { return c.Value(item, key).At(0) }
	letters := outline.Apart(c.Value(item, "text").Str(), outline.Style{
		Font: int(n("font")), Size: n("fontSize"), LetterSpacing: n("letterSpacing"), LineHeight: n("lineHeight") / 100, Align: n("alignment") / 2,
	})
	switch {
	case len(letters) == 0:
		return gesture.Result{}, fmt.Errorf("%s has no letters to split", item.Name)
	case len(letters) > maxLetters:
		return gesture.Result{}, fmt.Errorf("%s has %d letters; at most %d can be split", item.Name, len(letters), maxLetters)
	}
	at := c.Composition.IndexOf(item.ID) + 1
	var r gesture.Result
	for k, letter := range letters {
		made := &scene.Item{ID: c.NewID(), Name: gesture.ClipName(fmt.Sprintf("%s %d %s", item.Name, k+1, letter.Text)), Kind: scene.TextItem, Parent: item.ID, Label: item.Label, Stops: item.Stops}
		looksLike(c, made, item)
		made.Edit("text").Own = scene.Txt(letter.Text)
		made.Edit("alignment").Own = scene.Num(0)
		made.Edit("position").Own = scene.Pt(letter.At[0], letter.At[1], 0)
		r.Ops = append(r.Ops, &change.ItemAdd{In: c.In(), Value: made.Clone(), At: at + k})
		r.Made = append(r.Made, made.ID)
	}
	r.Ops = append(r.Ops, &change.OwnSet{Of: c.Of(item.ID, "text"), Value: scene.Txt("")})
	r.Note = fmt.Sprintf("split into %d letters under %s", len(letters), item.Name)
	return r, nil
}

// looksLike gives an item all that another one has set, pinned or linked of what does not place it.
func looksLike(c *gesture.Context, made, item *scene.Item) {
	for _, spec := range item.Specs() {
		state := item.States[spec.Key]
		if state == nil || spec.Group == scene.GroupPlace || spec.Group == scene.GroupControls || spec.Group == scene.GroupAttachment {
			continue
		}
		copied := state.Clone()
		for k, l := range copied.Links {
			var weights scene.Weights
			copied.Links[k], weights = wiring.Renewed(c, item, l)
			made.PutWeights(weights)
		}
		*made.Edit(spec.Key) = *copied
	}
}
