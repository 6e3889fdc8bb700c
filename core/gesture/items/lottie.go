package items

import (
	"fmt"
	"path"

	"wunderkammer/core/format/lottie"
	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
)

// BringLottie makes items of a Lottie animation, attached to a null with the name of the file; it begins at the frame of the gesture.
type BringLottie struct {
	File     []byte          `json:"file"`
	Name     string          `json:"name"`               // of the file
	Pictures []scene.AssetID `json:"pictures,omitempty"` // where the pictures of its assets are kept, empty for those that are none
	Place    *[3]float64     `json:"place"`              // of its middle in the composition; absent for that of the composition
}

// Do returns the operations that add the items. What was not understood is listed in the details.
func (g *BringLottie) Do(c *gesture.Context) (gesture.Result, error) {
	d, err := lottie.Read(g.File, g.Pictures, c.Frame, float64(c.Composition.Rate), c.NewID)
	if err != nil {
		return gesture.Result{}, fmt.Errorf("%s: %w", path.Base(g.Name), err)
	}
	root, r, err := brought(c, g.Name, "Animation", g.Place, d.Items, d.Missed)
	if err != nil {
		return r.Result, err
	}
	if over := c.Frame + d.Frames - c.Composition.Frames; over > 0 {
		r.also(fmt.Sprintf("%s plays on for %d frames behind the end of the composition", root.Name, over))
	}
	return r.Result, nil
}
