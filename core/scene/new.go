package scene

// NewComposition returns an empty composition of 1280 × 720 pixels and 12 seconds at 25 frames a
// second.
func NewComposition(id ID, name string) *Composition {
	return &Composition{ID: id, Name: name, Width: 1280, Height: 720, Rate: 25, Frames: 300, Background: RGBA(0.957, 0.933, 0.886, 1), Items: []*Item{}}
}

// NewProject returns a project with one empty composition.
func NewProject(id ID, name string) *Project {
	return &Project{ID: id, Name: name, Compositions: []*Composition{NewComposition("main", "Composition 1")}}
}
