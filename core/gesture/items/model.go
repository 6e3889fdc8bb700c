package items

import (
	"fmt"
	"math"
	"path"

	"wunderkammer/core/format/gltf"
	"wunderkammer/core/gesture"
	"wunderkammer/core/num"
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
	m, err := gltf.Read(g.File, g.Parts, g.Pictures, gltf.Timing{Start: c.Frame, Rate: float64(c.Composition.Rate)}, c.NewID)
	if err != nil {
		return gesture.Result{}, fmt.Errorf("%s: %w", path.Base(g.Name), err)
	}
	k := fitting(m.Items, float64(c.Composition.Height)) // before they hang on their root
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

// fitting returns by how much items are scaled that hang on each other, so that they are seen well in a composition of a height: 1 where
// they are. A glTF file counts in metres, and what was modelled in other units is far too large or small.
func fitting(items []*scene.Item, height float64) float64 {
	const small, large, wanted = 0.08, 3, 0.6 // of the height
	reach := 0.0
	places := map[scene.ID]num.Affine{"": num.Identity}
	for _, item := range items {
		p := func(key string, k int) float64 {
			return item.State(key).OwnOr(item.Spec(key)).At(k)
		}
		all := func(key string) [3]float64 { return [3]float64{p(key, 0), p(key, 1), p(key, 2)} }
		up := places[item.Parent]
		own := num.Place(all("position"), [3]float64{p("rotationX", 0), p("rotationY", 0), p("rotation", 0)}, all("scale"), all("pivot"))
		place := up.Mul(&own)
		places[item.ID] = place
		if item.Kind != scene.MeshItem {
			continue
		}
		size := all("size")
		for corner := range 8 {
			var at [3]float64
			for axis := range 3 {
				at[axis] = size[axis] * (float64(corner>>axis&1) - 0.5)
			}
			for _, x := range place.Apply(at) {
				reach = max(reach, math.Abs(x))
			}
		}
	}
	if reach == 0 || reach > height*small/2 && reach < height*large/2 {
		return 1
	}
	return wanted * height / 2 / reach
}
