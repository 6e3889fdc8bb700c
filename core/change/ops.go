package change

import (
	"fmt"
	"reflect"
	"slices"

	"wunderkammer/core/graph"
	"wunderkammer/core/scene"
)

// names is the table of all operations, by their names in JSON.
var names = map[string]func() Op{
	"project.rename":     func() Op { return &ProjectRename{} },
	"composition.add":    func() Op { return &CompositionAdd{} },
	"composition.remove": func() Op { return &CompositionRemove{} },
	"composition.set":    func() Op { return &CompositionSet{} },
	"marker.set":         func() Op { return &MarkerSet{} },
	"marker.remove":      func() Op { return &MarkerRemove{} },
	"composition.put":    func() Op { return &CompositionPut{} },
	"before.keep":        func() Op { return &BeforeKeep{} },
	"before.add":         func() Op { return &BeforeAdd{} },
	"before.set":         func() Op { return &BeforeSet{} },
	"before.remove":      func() Op { return &BeforeRemove{} },
	"before.restore":     func() Op { return &BeforeRestore{} },
	"recipe.add":         func() Op { return &RecipeAdd{} },
	"recipe.remove":      func() Op { return &RecipeRemove{} },
	"set.add":            func() Op { return &SetAdd{} },
	"set.remove":         func() Op { return &SetRemove{} },
	"item.add":           func() Op { return &ItemAdd{} },
	"item.remove":        func() Op { return &ItemRemove{} },
	"item.set":           func() Op { return &ItemSet{} },
	"item.attach":        func() Op { return &ItemAttach{} },
	"item.move":          func() Op { return &ItemMove{} },
	"items.arrange":      func() Op { return &ItemsArrange{} },
	"item.path":          func() Op { return &ItemPath{} },
	"item.frames":        func() Op { return &ItemFrames{} },
	"item.stops":         func() Op { return &ItemStops{} },
	"item.copies":        func() Op { return &ItemCopies{} },
	"control.add":        func() Op { return &ControlAdd{} },
	"control.remove":     func() Op { return &ControlRemove{} },
	"control.set":        func() Op { return &ControlSet{} },
	"control.move":       func() Op { return &ControlMove{} },
	"own.set":            func() Op { return &OwnSet{} },
	"pins.put":           func() Op { return &PinsPut{} },
	"pins.drop":          func() Op { return &PinsDrop{} },
	"link.add":           func() Op { return &LinkAdd{} },
	"link.remove":        func() Op { return &LinkRemove{} },
	"link.set":           func() Op { return &LinkSet{} },
	"link.move":          func() Op { return &LinkMove{} },
	"baked.set":          func() Op { return &BakedSet{} },
	"pins.beyond":        func() Op { return &PinsBeyond{} },
	"limits.set":         func() Op { return &LimitsSet{} },
	"spread.add":         func() Op { return &RosterLinkAdd{} },
	"spread.remove":      func() Op { return &RosterLinkRemove{} },
	"spread.set":         func() Op { return &RosterLinkSet{} },
	"graph.add":          func() Op { return &GraphAdd{} },
	"graph.remove":       func() Op { return &GraphRemove{} },
	"graph.set":          func() Op { return &GraphSet{} },
	"slip.add":           func() Op { return &SlipAdd{} },
	"slip.remove":        func() Op { return &SlipRemove{} },
	"slip.set":           func() Op { return &SlipSet{} },
	"item.sound":         func() Op { return &ItemSound{} },
	"item.table":         func() Op { return &ItemTable{} },
	"sound.start":        func() Op { return &SoundStart{} },
	"look.set":           func() Op { return &LookSet{} },
	"look.remove":        func() Op { return &LookRemove{} },
	"offer.set":          func() Op { return &OfferSet{} },
	"offer.remove":       func() Op { return &OfferRemove{} },
	"handoff.note":       func() Op { return &HandOffNote{} },
	"item.piece":         func() Op { return &ItemPiece{} },
	"piece.kept":         func() Op { return &PieceKept{} },
	"wire.add":           func() Op { return &WireAdd{} },
	"wire.remove":        func() Op { return &WireRemove{} },
}

var byType = func() map[reflect.Type]string {
	m := map[reflect.Type]string{}
	for name, make := range names {
		m[reflect.TypeOf(make())] = name
	}
	return m
}()

func nameOf(op Op) string { return byType[reflect.TypeOf(op)] }

// In names a composition; every operation within one carries it.
type In struct {
	Composition scene.ID `json:"composition"`
}

func (in In) find(p *scene.Project) (*scene.Composition, error) {
	c := p.Composition(in.Composition)
	if c == nil {
		return nil, fmt.Errorf("there is no composition with the id %q; it may have been removed in another window", clip(string(in.Composition)))
	}
	return c, nil
}

// On names an item of a composition.
type On struct {
	In
	Item scene.ID `json:"item"`
}

func (on On) find(p *scene.Project) (*scene.Composition, *scene.Item, error) {
	c, err := on.In.find(p)
	if err != nil {
		return nil, nil, err
	}
	item := c.Item(on.Item)
	if item == nil {
		return nil, nil, fmt.Errorf("there is no item with the id %q in %s; it may have been removed in another window", clip(string(on.Item)), c.Name)
	}
	return c, item, nil
}

func (on On) effect() Effect { return Effect{Composition: on.Composition, Item: on.Item} }

func (on On) structure() Effect {
	e := on.effect()
	e.Touch = Structure
	return e
}

// Of names a property of an item.
type Of struct {
	On
	Property string `json:"property"`
}

func (of Of) find(p *scene.Project) (*scene.Item, *scene.Spec, error) {
	_, item, err := of.On.find(p)
	if err != nil {
		return nil, nil, err
	}
	spec := item.Spec(of.Property)
	if spec != nil && item.Kept(of.Property) != nil {
		return nil, nil, fmt.Errorf("%s of %s holds other values now than it was set to; remove what is kept of it first", spec.Name, item.Name)
	}
	if spec == nil {
		return nil, nil, fmt.Errorf("%s has no property %q; its control may have been removed", item.Name, clip(of.Property))
	}
	if spec.ReadOnly {
		return nil, nil, fmt.Errorf("%s: %s is read-only", item.Name, spec.Name)
	}
	return item, spec, nil
}

// value is the effect of another own value or other pins. A vertex or a weight has a place in the
// column only while something is set of it; known says whether something was before.
func (of Of) value(item *scene.Item, known bool) Effect {
	e := of.effect()
	e.Property, e.Touch = of.Property, Values
	if scene.Extra(of.Property) {
		_, _, vertex := scene.VertexOf(of.Property)
		natural := vertex && item.Kind.Class() == scene.Solid // its own value, or what it is of itself
		if natural || known != (item.States[of.Property] != nil) {
			e.Touch = Structure
		}
	}
	return e
}

// place holds an index of a list of n within it; a negative one means the end.
func place(at, n int) int {
	if at < 0 || at > n {
		return n
	}
	return at
}

// ProjectRename gives the project another name, of 1 to 200 letters.
type ProjectRename struct {
	Name string `json:"name"`
}

func (o *ProjectRename) apply(p *scene.Project) (Op, Effect, error) {
	if err := scene.CheckName(o.Name); err != nil {
		return nil, Effect{}, err
	}
	inverse := &ProjectRename{p.Name}
	p.Name = o.Name
	return inverse, Effect{}, nil
}

// CompositionAdd puts a composition with all its items at a place of the list.
type CompositionAdd struct {
	Value *scene.Composition `json:"value"`
	At    int                `json:"at"`
}

func (o *CompositionAdd) apply(p *scene.Project) (Op, Effect, error) {
	if o.Value == nil {
		return nil, Effect{}, fmt.Errorf("no composition was given")
	}
	if err := o.Value.CheckWhole(); err != nil {
		return nil, Effect{}, err
	}
	if len(p.Compositions) >= scene.MaxCompositions {
		return nil, Effect{}, fmt.Errorf("the project has %d compositions, which is the limit", scene.MaxCompositions)
	}
	if err := claim(p, o.Value.IDs()...); err != nil {
		return nil, Effect{}, err
	}
	p.Compositions = slices.Insert(p.Compositions, place(o.At, len(p.Compositions)), o.Value.Clone())
	p.Join()
	return &CompositionRemove{In{o.Value.ID}}, Effect{Composition: o.Value.ID, Touch: Structure, wired: true}, nil
}

// claim takes ids, or refuses where one is taken.
func claim(p *scene.Project, ids ...scene.ID) error {
	if id, ok := p.Claim(ids...); !ok {
		return scene.Taken(id)
	}
	return nil
}

// CompositionRemove takes a composition out; a project keeps at least one.
type CompositionRemove struct{ In }

func (o *CompositionRemove) apply(p *scene.Project) (Op, Effect, error) {
	c, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	if len(p.Compositions) == 1 {
		return nil, Effect{}, fmt.Errorf("%s is the only composition; a project keeps at least one", c.Name)
	}
	at := slices.Index(p.Compositions, c)
	p.Compositions = slices.Delete(p.Compositions, at, at+1)
	p.Join()
	p.Release(c.IDs()...)
	return &CompositionAdd{c, at}, Effect{Composition: o.Composition, Touch: Structure}, nil
}

// CompositionSet changes what is given and leaves the rest.
type CompositionSet struct {
	In
	Name       *string         `json:"name,omitempty"`
	Width      *int            `json:"width,omitempty"`
	Height     *int            `json:"height,omitempty"`
	Rate       *int            `json:"rate,omitempty"`
	Frames     *int            `json:"frames,omitempty"`
	Background *scene.Value    `json:"background,omitempty"`
	Drawers    *[]scene.Drawer `json:"drawers,omitempty"`
}

func (o *CompositionSet) apply(p *scene.Project) (Op, Effect, error) {
	c, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	trial := *c
	inverse := &CompositionSet{In: o.In}
	swap(&trial.Name, o.Name, &inverse.Name)
	swap(&trial.Width, o.Width, &inverse.Width)
	swap(&trial.Height, o.Height, &inverse.Height)
	swap(&trial.Rate, o.Rate, &inverse.Rate)
	swap(&trial.Frames, o.Frames, &inverse.Frames)
	swap(&trial.Background, o.Background, &inverse.Background)
	swap(&trial.Drawers, o.Drawers, &inverse.Drawers)
	if len(trial.Drawers) == 0 {
		trial.Drawers = nil
	}
	if err := trial.Check(); err != nil {
		return nil, Effect{}, err
	}
	e := Effect{Composition: o.Composition}
	if trial.Width != c.Width || trial.Height != c.Height || trial.Rate != c.Rate || trial.Frames != c.Frames {
		e.Touch = Settings
	}
	*c = trial
	for _, r := range p.Readings(c.ID) { // which are like it
		r.Width, r.Height, r.Rate, r.Frames, r.Background = c.Width, c.Height, c.Rate, c.Frames, c.Background
		e.also = append(e.also, Effect{Composition: r.ID, Touch: e.Touch})
	}
	return inverse, e, nil
}

// swap sets a field to a given value and keeps what stood there for the inverse.
func swap[T any](field, given *T, kept **T) {
	if given == nil {
		return
	}
	old := *field
	*kept = &old
	*field = *given
}

// ItemAdd puts an item, with its controls and all that was set of it, at a place of the list.
type ItemAdd struct {
	In
	Value *scene.Item `json:"value"`
	At    int         `json:"at"`
}

func (o *ItemAdd) apply(p *scene.Project) (Op, Effect, error) {
	c, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	if o.Value == nil {
		return nil, Effect{}, fmt.Errorf("no item was given")
	}
	if len(c.Items) >= scene.MaxItems {
		return nil, Effect{}, fmt.Errorf("%s has %d items, which is the limit", c.Name, scene.MaxItems)
	}
	if err := o.Value.Check(); err != nil {
		return nil, Effect{}, err
	}
	if o.Value.Parent != "" && c.Item(o.Value.Parent) == nil {
		return nil, Effect{}, fmt.Errorf("%s is attached to an item that does not exist", o.Value.Name)
	}
	if err := claim(p, o.Value.IDs()...); err != nil {
		return nil, Effect{}, err
	}
	item := o.Value.Clone()
	c.Insert(place(o.At, len(c.Items)), item)
	if item.Kind == scene.CopiesItem {
		if err := c.CheckLanes(); err != nil {
			c.Take(c.IndexOf(item.ID))
			p.Release(item.IDs()...)
			return nil, Effect{}, err
		}
	}
	for _, state := range item.States {
		for _, l := range state.Links {
			graph.Write(l, c)
		}
	}
	e := On{o.In, o.Value.ID}.structure()
	e.wired = len(o.Value.States) > 0 || item.Kind == scene.CopiesItem
	e.attached = item.Kind == scene.CopiesItem && item.Parent != ""
	return &ItemRemove{On{o.In, o.Value.ID}}, e, nil
}

// ItemRemove takes an item out. What is attached to it has to be detached first. Links of others
// that have it as their source stay, and are passed over until it comes back.
type ItemRemove struct{ On }

func (o *ItemRemove) apply(p *scene.Project) (Op, Effect, error) {
	c, item, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	if c.Carries(item.ID) {
		return nil, Effect{}, fmt.Errorf("%s is attached to %s; detach it first", c.Attached(item.ID)[0].Name, item.Name)
	}
	at := c.IndexOf(item.ID)
	c.Take(at)
	p.Release(item.IDs()...)
	return &ItemAdd{o.In, item, at}, o.structure(), nil
}

// ItemSet changes what is given and leaves the rest.
type ItemSet struct {
	On
	Name        *string `json:"name,omitempty"`
	Hidden      *bool   `json:"hidden,omitempty"`
	Locked      *bool   `json:"locked,omitempty"`
	NotInOutput *bool   `json:"notInOutput,omitempty"`
	Label       *int    `json:"label,omitempty"`
	Note        *string `json:"note,omitempty"`
}

func (o *ItemSet) apply(p *scene.Project) (Op, Effect, error) {
	c, item, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	trial := *item
	inverse := &ItemSet{On: o.On}
	swap(&trial.Name, o.Name, &inverse.Name)
	swap(&trial.Hidden, o.Hidden, &inverse.Hidden)
	swap(&trial.Locked, o.Locked, &inverse.Locked)
	swap(&trial.NotInOutput, o.NotInOutput, &inverse.NotInOutput)
	swap(&trial.Label, o.Label, &inverse.Label)
	swap(&trial.Note, o.Note, &inverse.Note)
	if err := trial.CheckLooks(); err != nil {
		return nil, Effect{}, err
	}
	if *item = trial; o.Name != nil {
		c.Renamed()
	}
	e := o.effect()
	switch {
	case o.Hidden != nil || o.NotInOutput != nil: // what hangs on the item is hidden with it
		e.Touch = Structure
	case o.Name != nil:
		e.Touch = Names
	}
	return inverse, e, nil
}

// ItemAttach makes an item a part of another, or of none. Its own values stay as they are; to
// keep it where it stands is the matter of package gesture.
type ItemAttach struct {
	On
	Parent scene.ID `json:"parent"`
	// How it hangs there: what it takes over, and where the parent stood.
	Attachment scene.Attachment `json:"attachment,omitzero"`
}

func (o *ItemAttach) apply(p *scene.Project) (Op, Effect, error) {
	c, item, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	if o.Parent != "" && c.Item(o.Parent) == nil {
		return nil, Effect{}, fmt.Errorf("there is no item with the id %q to attach %s to", clip(string(o.Parent)), item.Name)
	}
	if err := o.Attachment.Check(); err != nil {
		return nil, Effect{}, fmt.Errorf("%s: %w", item.Name, err)
	}
	inverse := &ItemAttach{o.On, item.Parent, item.Attachment}
	c.Hang(item, o.Parent, o.Attachment.Clone())
	e := o.structure()
	e.attached = true
	e.wired = true // places depend on each other through attachments, too
	return inverse, e, nil
}

// ItemMove puts an item at another place of the list.
type ItemMove struct {
	On
	At int `json:"at"`
}

func (o *ItemMove) apply(p *scene.Project) (Op, Effect, error) {
	c, item, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	at := c.IndexOf(item.ID)
	c.Take(at)
	c.Insert(place(o.At, len(c.Items)), item)
	return &ItemMove{o.On, at}, o.structure(), nil
}

// ItemsArrange puts items at other places of the list: each to the one that is given for it, counted when all of them stand there, in
// rising order.
type ItemsArrange struct {
	In
	Items []scene.ID `json:"items"`
	At    []int      `json:"at"`
}

func (o *ItemsArrange) apply(p *scene.Project) (Op, Effect, error) {
	c, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	if len(o.Items) == 0 || len(o.Items) != len(o.At) {
		return nil, Effect{}, fmt.Errorf("to arrange items, a place has to be given for each of them")
	}
	were, stood, ok := c.Arrange(o.Items, o.At)
	if !ok {
		return nil, Effect{}, fmt.Errorf("these items can't be arranged like this; some may have been removed in another window")
	}
	return &ItemsArrange{o.In, were, stood}, Effect{Composition: o.Composition, Touch: Structure}, nil
}
