package gltf

import (
	"errors"
	"fmt"
	"math"
	"slices"

	"wunderkammer/core/format/brought"
	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

// Model is what a file comes to.
type Model struct {
	// Items are the model's in the order of a tree: what others hang on stands before them.
	Items []*scene.Item
	// Missed says what was not understood, with how often it occurs.
	Missed []string
}

// Pictures returns the pictures that surfaces of a file show, in the order of its images; one that none shows is empty.
func Pictures(file []byte, parts map[string][]byte) ([]brought.Picture, error) {
	d, err := open(file, parts)
	if err != nil {
		return nil, err
	}
	if err := d.fill(); err != nil {
		return nil, err
	}
	out := make([]brought.Picture, len(d.Images))
	for k := range d.Materials {
		at, ok := d.shown(&d.Materials[k])
		if !ok || out[at].Data != nil {
			continue
		}
		one := d.Images[at]
		data := []byte(nil)
		if one.BufferView != nil {
			data, _, err = d.view(*one.BufferView, 0)
		} else {
			data, err = brought.At(one.URI, d.parts)
		}
		if err != nil {
			return nil, err
		}
		out[at] = brought.Picture{Name: one.Name, Type: one.MimeType, Data: data}
	}
	return out, nil
}

// shown returns which image a material shows.
func (d *document) shown(m *material) (int, bool) {
	if m.PBR == nil || m.PBR.BaseColorTexture == nil {
		return 0, false
	}
	t := m.PBR.BaseColorTexture.Index
	if t < 0 || t >= len(d.Textures) || d.Textures[t].Source == nil {
		return 0, false
	}
	at := *d.Textures[t].Source
	return at, at >= 0 && at < len(d.Images)
}

// reader makes items of a file.
type reader struct {
	*document
	newID     func() scene.ID
	pictures  []scene.AssetID // of the images
	out       []*scene.Item
	surfaces  map[[2]int]*surface
	visited   map[int]bool
	triangles int
	start     int // the frame that it begins at
	rate      float64
	moves     map[int]map[string]*channel // of nodes, by what of them moves
	moved     int
	brought.Missed
}

// surface is what a primitive comes to: a mesh in pixels, about the middle of what it takes up.
type surface struct {
	shape  *scene.MeshShape
	middle [3]float64
	size   [3]float64
}

// Bounds of what is made of a file.
const (
	maxDepth = 200
	maxAll   = 4 * scene.MaxTriangles // triangles of all items
)

// Read makes items of a file whose motion begins at a frame of a composition of a rate: of each mesh an object with numbered vertices, of each node that only carries others a null, of what of
// them moves pins. pictures are where those that Pictures returned are kept, in its order. What is not understood is listed, and the rest
// is read.
func Read(file []byte, parts map[string][]byte, pictures []scene.AssetID, start int, rate float64, newID func() scene.ID) (*Model, error) {
	d, err := open(file, parts)
	if err != nil {
		return nil, err
	}
	if err := d.fill(); err != nil {
		return nil, err
	}
	r := &reader{document: d, newID: newID, pictures: pictures, surfaces: map[[2]int]*surface{}, visited: map[int]bool{}, start: start, rate: rate}
	if err := r.moving(); err != nil {
		return nil, err
	}
	for _, n := range r.tops() {
		if err := r.node(n, "", [3]float64{}, 0); err != nil {
			return nil, err
		}
	}
	if r.triangles == 0 {
		return nil, errors.New("there is no mesh in it")
	}
	return &Model{Items: r.out, Missed: r.List()}, nil
}

// tops lists the nodes that hang on no other, of the scene that is shown; of all where there is none.
func (r *reader) tops() []int {
	if r.Scene >= 0 && r.Scene < len(r.Scenes) {
		return r.Scenes[r.Scene].Nodes
	}
	below := map[int]bool{}
	for _, n := range r.Nodes {
		for _, child := range n.Children {
			below[child] = true
		}
	}
	var out []int
	for k := range r.Nodes {
		if !below[k] {
			out = append(out, k)
		}
	}
	return out
}

// node makes items of a node and of what hangs on it. shift is how far the middle of its parent's item is from the parent's origin,
// in pixels.
func (r *reader) node(n int, parent scene.ID, shift [3]float64, depth int) error {
	if n < 0 || n >= len(r.Nodes) || r.visited[n] || depth > maxDepth {
		return brought.ErrDamaged
	}
	r.visited[n] = true
	node := &r.Nodes[n]
	for _, left := range []struct {
		there bool
		what  string
	}{
		{node.Camera != nil, "a camera"}, {node.Extensions["KHR_lights_punctual"] != nil, "a light"},
		{node.Skin != nil, "a skeleton; what it bends stays as it was modelled"},
	} {
		if left.there {
			r.Miss(left.what)
		}
	}
	made, err := r.surfacesOf(node)
	if err != nil {
		return err
	}
	if len(made) == 0 && len(node.Children) == 0 {
		return nil
	}
	item := &scene.Item{ID: r.newID(), Kind: scene.Null, Parent: parent}
	own := [3]float64{}
	name := "Group"
	if len(made) == 1 {
		own, name = made[0].middle, "Mesh"
		r.dress(item, &made[0])
	}
	if node.Mesh != nil {
		name = brought.Named(r.Meshes[*node.Mesh].Name, name)
	}
	item.Name = brought.Named(node.Name, name)
	if err := r.place(item, node, shift, own); err != nil {
		return err
	}
	if len(node.Children) == 0 && r.moves[n]["scale"] == nil {
		sized(item)
	}
	r.animate(item, n, shift)
	r.out = append(r.out, item)
	if len(made) > 1 {
		for k := range made {
			part := &scene.Item{ID: r.newID(), Kind: scene.MeshItem, Parent: item.ID, Name: made[k].name}
			r.dress(part, &made[k])
			if made[k].middle != [3]float64{} {
				part.Edit("position").Own = at(made[k].middle)
				part.Edit("pivot").Own = at([3]float64{})
			}
			r.out = append(r.out, part)
		}
	}
	for _, child := range node.Children {
		if err := r.node(child, item.ID, own, depth+1); err != nil {
			return err
		}
	}
	if len(r.out) > scene.MaxItems {
		return fmt.Errorf("it has more than %d nodes. Export fewer at a time", scene.MaxItems)
	}
	return nil
}

// at is a place, without the noise of single precision.
func at(p [3]float64) scene.Value {
	return scene.Pt(brought.Tidy(p[0]), brought.Tidy(p[1]), brought.Tidy(p[2]))
}

// place puts an item where its node stands. middle is that of its surface, from the origin of the node, which becomes its pivot.
func (r *reader) place(item *scene.Item, n *fileNode, shift, middle [3]float64) error {
	m, err := n.matrix()
	if err != nil {
		return err
	}
	_, rotation, scale := m.Parts([3]float64{})
	position := [3]float64{m[3] - shift[0], m[7] - shift[1], m[11] - shift[2]}
	origin := [3]float64{-middle[0], -middle[1], -middle[2]}
	for key, v := range map[string][2][3]float64{"position": {position, {}}, "scale": {scale, {100, 100, 100}}, "pivot": {origin, {}}} {
		for _, x := range v[0] {
			if !num.Finite(x) || math.Abs(x) > 1e9 {
				return errors.New("a node of it stands too far away to be drawn")
			}
		}
		if own := at(v[0]); own != at(v[1]) {
			item.Edit(key).Own = own
		}
	}
	for k, key := range []string{"rotationX", "rotationY", "rotation"} {
		if x := brought.Tidy(rotation[k]); x != 0 {
			item.Edit(key).Own = scene.Num(x)
		}
	}
	return nil
}

// sized makes a mesh that nothing hangs on as large as its scale has it, at a scale of 100 %.
func sized(item *scene.Item) {
	scale := item.State("scale").Own
	if item.Kind != scene.MeshItem || scale.Absent() || scale.At(0) <= 0 || scale.At(1) <= 0 || scale.At(2) <= 0 {
		return
	}
	for _, key := range []string{"size", "pivot"} {
		state := item.Edit(key)
		for axis := range 3 {
			if !state.Own.Absent() {
				state.Own = state.Own.With(axis, brought.Tidy(float64(state.Own.At(axis)*scale.At(axis))/100))
			}
		}
	}
	delete(item.States, "scale")
	if item.States["pivot"].Own.Absent() {
		delete(item.States, "pivot")
	}
}

// matrix returns where a node stands on its parent, in pixels.
func (n *fileNode) matrix() (m num.Affine, err error) {
	given := func(list []float64, otherwise ...float64) []float64 {
		if len(list) == len(otherwise) {
			return list
		}
		return otherwise
	}
	if len(n.Matrix) == 16 { // column by column
		for row := range 3 {
			for column := range 4 {
				m[4*row+column] = n.Matrix[4*column+row]
			}
		}
	} else {
		t, q, s := given(n.Translation, 0, 0, 0), given(n.Rotation, 0, 0, 0, 1), given(n.Scale, 1, 1, 1)
		m = turned(q, [3]float64(s))
		for row := range 3 {
			m[4*row+3] = t[row]
		}
	}
	for row := range 3 {
		m[4*row+3] /= metres
	}
	for _, x := range m {
		if !num.Finite(x) {
			return m, brought.ErrDamaged
		}
	}
	return m, nil
}

// turned is the transform that turns by a quaternion, after it has stretched by factors.
func turned(q []float64, s [3]float64) (m num.Affine) {
	x, y, z, w := q[0], q[1], q[2], q[3]
	length := math.Sqrt(float64(x*x) + float64(y*y) + float64(z*z) + float64(w*w))
	if !(length > 1e-9) {
		x, y, z, w, length = 0, 0, 0, 1, 1
	}
	x, y, z, w = x/length, y/length, z/length, w/length
	turn := [9]float64{
		1 - 2*(float64(y*y)+float64(z*z)), 2 * (float64(x*y) - float64(z*w)), 2 * (float64(x*z) + float64(y*w)),
		2 * (float64(x*y) + float64(z*w)), 1 - 2*(float64(x*x)+float64(z*z)), 2 * (float64(y*z) - float64(x*w)),
		2 * (float64(x*z) - float64(y*w)), 2 * (float64(y*z) + float64(x*w)), 1 - 2*(float64(x*x)+float64(y*y)),
	}
	for row := range 3 {
		for column := range 3 {
			m[4*row+column] = turn[3*row+column] * s[column]
		}
	}
	return m
}

// part is a surface of a node, and what it is made of.
type part struct {
	*surface
	material *material
	name     string
}

// surfacesOf returns the surfaces of a node's mesh.
func (r *reader) surfacesOf(n *fileNode) (out []part, err error) {
	if n.Mesh == nil {
		return nil, nil
	}
	if *n.Mesh < 0 || *n.Mesh >= len(r.Meshes) {
		return nil, brought.ErrDamaged
	}
	mesh := &r.Meshes[*n.Mesh]
	for k := range mesh.Primitives {
		p := &mesh.Primitives[k]
		key := [2]int{*n.Mesh, k}
		made, known := r.surfaces[key]
		if !known {
			if made, err = r.surface(p); err != nil {
				return nil, err
			}
			r.surfaces[key] = made
		}
		if made == nil {
			continue
		}
		if r.triangles += len(made.shape.Index) / 3; r.triangles > maxAll {
			return nil, fmt.Errorf("it has more than %d triangles. Simplify it, or export fewer meshes at a time", maxAll)
		}
		one := part{surface: made, name: fmt.Sprintf("Part %d", len(out)+1)}
		if p.Material != nil && *p.Material >= 0 && *p.Material < len(r.Materials) {
			one.material = &r.Materials[*p.Material]
			one.name = brought.Named(one.material.Name, one.name)
		}
		out = append(out, one)
	}
	return out, nil
}

// dress makes an item the object of a surface, with what it is made of.
func (r *reader) dress(item *scene.Item, p *part) {
	item.Kind, item.Mesh = scene.MeshItem, p.shape
	item.Edit("size").Own = at(p.size)
	colour, roughness := scene.RGBA(1, 1, 1, 1), 1.0
	if m := p.material; m != nil {
		if m.Extensions["KHR_materials_unlit"] != nil {
			item.Edit("lit").Own = scene.On(false)
		}
		if pbr := m.PBR; pbr != nil {
			if f := pbr.BaseColorFactor; len(f) == 4 {
				colour = scene.RGBA(num.Encoded(f[0]), num.Encoded(f[1]), num.Encoded(f[2]), num.Clamp(f[3], 0, 1))
			}
			if pbr.RoughnessFactor != nil {
				roughness = num.Clamp(*pbr.RoughnessFactor, 0, 1)
			}
			n, ok := r.shown(m)
			switch {
			case pbr.BaseColorTexture == nil:
			case !ok:
				r.Miss("a picture in a form that can’t be read")
			case pbr.BaseColorTexture.Extensions["KHR_texture_transform"] != nil:
				r.Miss("a picture that is moved on its surface; it lies as it would without")
			}
			if ok && n < len(r.pictures) && r.pictures[n] != "" {
				item.Frames = []scene.Frame{{Asset: r.pictures[n]}}
				if colour.With(3, 1) != scene.RGBA(1, 1, 1, 1) {
					r.Miss("a picture dyed in a colour; it is shown as it is")
				}
			}
			if pbr.MetallicFactor != nil && *pbr.MetallicFactor > 0.05 {
				r.Miss("metal; it is shown without its gloss")
			}
		}
		if m.AlphaMode != "BLEND" && m.AlphaMode != "MASK" {
			colour = colour.With(3, 1)
		}
		if slices.ContainsFunc(m.EmissiveFactor, func(x float64) bool { return x > 0 }) {
			r.Miss("a surface that shines by itself")
		}
		if m.NormalTexture != nil || m.OcclusionTexture != nil || m.PBR != nil && m.PBR.MetallicRoughnessTexture != nil {
			r.Miss("a picture of bumps, shade or gloss")
		}
	}
	item.Edit("colour").Own = colour
	item.Edit("roughness").Own = scene.Num(brought.Tidy(roughness * 100))
}
