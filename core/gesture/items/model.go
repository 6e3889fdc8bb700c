package items

import (
	"fmt"
	"math"
	"path"

	"wunderkammer/core/engine"
	"wunderkammer/core/format/gltf"
	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
)

// BringModel makes objects of a glTF or GLB file, attached to a null with the name of the file; what moves of them begins at the
// frame of the gesture.
type BringModel struct {
	File     []byte            `json:"file"`
	Parts    map[string][]byte `json:"parts,omitempty"`    // the files that were chosen with it, by their names
	Name     string            `json:"name"`               // of the file
	Pictures []scene.AssetID   `json:"pictures,omitempty"` // where the pictures of its images are kept, empty for those that are not
	Place    *[3]float64       `json:"place"`              // of its origin in the composition; absent for the middle of that
}

// Do returns the operations that add the objects. What was not understood is listed in the details.
func (g *BringModel) Do(c *gesture.Context) (gesture.Result, error) {
	m, err := gltf.Read(g.File, g.Parts, g.Pictures, c.Frame, float64(c.Composition.Rate), c.NewID)
	if err != nil {
		return gesture.Result{}, fmt.Errorf("%s: %w", path.Base(g.Name), err)
	}
	k := fitting(m.Items, c) // before they hang on their root
	root, r, err := brought(c, g.Name, "Model", g.Place, m.Items, m.Missed)
	if err != nil {
		return r.Result, err
	}
	if k != 1 {
		root.Edit("scale").Own = scene.Pt(100*k, 100*k, 100*k)
		r.also(fmt.Sprintf("%s was scaled to %.3g %% to fit", root.Name, 100*k))
	}
	return r.Result, nil
}

// fitting returns by how much items are scaled that hang on each other, so that they are seen well in a composition: 1 where they are. A
// glTF file counts in metres, and what was modelled in other units is far too large or small.
func fitting(items []*scene.Item, c *gesture.Context) float64 {
	const small, large, wanted = 0.08, 3, 0.6 // of the height
	p := engine.New(&scene.Composition{ID: c.Composition.ID, Name: c.Composition.Name, Frames: 1, Rate: c.Composition.Rate, Items: items})
	p.Evaluate(float64(c.Frame))
	reach, height := 0.0, float64(c.Composition.Height)
	for i := range p.Layout.Items {
		lo, hi, drawn := p.Bounds(int32(i))
		if !drawn {
			continue
		}
		world, ends := p.World(int32(i)), [2][3]float64{lo, hi}
		for corner := range 8 {
			for _, x := range world.Apply([3]float64{ends[corner&1][0], ends[corner>>1&1][1], ends[corner>>2][2]}) {
				reach = max(reach, math.Abs(x))
			}
		}
	}
	if reach == 0 || reach > height*small/2 && reach < height*large/2 {
		return 1
	}
	return wanted * height / 2 / reach
}
