// Package view describes a working copy to an interface: what has changed since it last looked,
// and where everything stands in the array of values. It is JSON on its way out and nothing else.
package view

import (
	"wunderkammer/core/check"
	"wunderkammer/core/curve"
	"wunderkammer/core/engine"
	"wunderkammer/core/format"
	"wunderkammer/core/formula"
	"wunderkammer/core/formula/binding"
	"wunderkammer/core/gesture/recipes"
	"wunderkammer/core/graph"
	"wunderkammer/core/layout"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
	"wunderkammer/core/wire"
)

// View is what an interface has to take over after a call: only what changed since the last one.
type View struct {
	Revision     int                 `json:"revision"`
	Waiting      int                 `json:"waiting"` // changes that are not acknowledged yet
	CanUndo      bool                `json:"canUndo"`
	LastUndo     string              `json:"lastUndo,omitempty"` // the change that would be undone next, by its id
	LastRedo     string              `json:"lastRedo,omitempty"` // likewise, made again
	Trying       bool                `json:"trying"`             // changes are tried out: not sent until they are kept
	Tried        int                 `json:"tried"`              // how many steps
	CanRedo      bool                `json:"canRedo"`
	Name         string              `json:"name"`
	Compositions []Composition       `json:"compositions" ts:"list"`
	Composition  scene.ID            `json:"composition"`
	Poses        []scene.Ref         `json:"poses" ts:"list"`
	Items        []Item              `json:"items" ts:"list"`      // those whose description changed
	Known        bool                `json:"known,omitempty"`      // all items are as the interface has read them itself, but for:
	Specs        []Specs             `json:"specs,omitempty"`      // what is worked out of them
	States       []State             `json:"states,omitempty"`     // of other items; all else of them is as before
	Structure    *Structure          `json:"structure,omitempty"`  // absent: as before
	Graphs       []*scene.Graph      `json:"graphs,omitempty"`     // those that changed
	GraphOrder   []scene.ID          `json:"graphOrder" ts:"null"` // all that there are; absent: as before
	Recipes      []OwnRecipe         `json:"recipes" ts:"list"`    // of the project
	Befores      []OwnBefore         `json:"befores,omitempty"`    // of the project
	Sets         []*scene.ControlSet `json:"sets,omitempty"`       // likewise
	Links        bool                `json:"links"`                // what Survey tells may have changed
	Texts        []string            `json:"texts,omitempty"`      // what numbers in text slots stand for; absent: as before
}

// Specs is the specifications of an item's controls, of its vertices that have slots, and of what has
// other limits than its kind.
type Specs struct {
	Item  scene.ID `json:"item"`
	Specs []Spec   `json:"specs" ts:"list"`
}

// State is what is set of one property, to take the place of what was known of it.
type State struct {
	Item     scene.ID     `json:"item"`
	Property string       `json:"property"`
	State    *scene.State `json:"state" ts:"null"` // null: nothing any more
}

// OwnRecipe is a recipe of the project without what it is made of.
type OwnRecipe struct {
	ID     scene.ID           `json:"id"`
	Name   string             `json:"name"`
	Help   string             `json:"help,omitempty"`
	Fields []scene.SavedField `json:"fields,omitempty"`
	Slots  []scene.SavedSlot  `json:"slots,omitempty"`
}

// Composition is a composition without its items.
type Composition struct {
	ID         scene.ID       `json:"id"`
	Name       string         `json:"name"`
	Width      int            `json:"width"`
	Height     int            `json:"height"`
	Rate       int            `json:"rate"`
	Frames     int            `json:"frames"`
	Background scene.Value    `json:"background" ts:"colour"`
	Drawers    []scene.Drawer `json:"drawers,omitempty"`
	Markers    []scene.Marker `json:"markers,omitempty"`
	HandOff    *scene.HandOff `json:"handOff,omitempty"`
	Looks      []OwnLook      `json:"looks,omitempty"`
	Reading    scene.ID       `json:"reading,omitempty"` // the composition that it is a reading of
	// Offered are the controls that are handed off and that are there, as whoever gets them sees them, by the ids of their offers.
	Offered []*scene.Control `json:"offered,omitempty"`
	Shows   []scene.ID       `json:"shows,omitempty"` // the compositions that its pieces show
}

// OwnLook is a look without its values.
type OwnLook struct {
	ID   scene.ID `json:"id"`
	Name string   `json:"name"`
	Of   scene.ID `json:"of,omitempty"` // the item whose controls they are; empty: those of all items
}

// Item is an item with the specifications of its controls.
type Item struct {
	*scene.Item
	Path    bool `json:"path,omitempty"`    // whether it has one; its vertices are asked for by themselves
	EvenOdd bool `json:"evenOdd,omitempty"` // how the inside of its path is told from the outside
	// Specs of its controls, of its vertices that have slots, and of what has other limits than its kind.
	Specs []Spec `json:"specs,omitempty"`
}

// Spec is a specification with where its values stand and its hard limits; a limit that does not exist is absent.
type Spec struct {
	scene.Spec
	Column int      `json:"column"` // which column of its kind it is; -1 for what an item has besides
	Offset int32    `json:"offset"` // where it starts in what an item has besides; -1 where it has no slot there
	Min    *float64 `json:"min,omitempty"`
	Max    *float64 `json:"max,omitempty"`
	Tag    string   `json:"tag"`
	Parts  []string `json:"parts,omitempty"`
	Spaced bool     `json:"spaced,omitempty"` // a link can give it in the composition's space
	Worked []string `json:"worked,omitempty"` // components that are worked out of the others; they can be driven
	Jumps  bool     `json:"jumps,omitempty"`  // never blended between pins
	// Held are the limits of its components, where these differ.
	Held []scene.Limits `json:"held,omitempty"`
}

// KindColumn is where a property of all items of a kind stands: the first slot of that of the first, and how much further on that of the next
// one stands. Those that nobody touches stand once for all items: with a step of 0.
type KindColumn struct {
	First int32 `json:"first"`
	Step  int32 `json:"step"`
}

// Structure is where everything stands.
type Structure struct {
	Order  []scene.ID `json:"order" ts:"list"` // items as the tree shows them
	Depths []int      `json:"depths" ts:"list"`
	// Columns are where the properties of each kind stand that there are items of.
	Columns     map[scene.Kind][]KindColumn `json:"columns"`
	Rows        []int32                     `json:"rows" ts:"list"`   // where each item stands among those of its kind
	Extras      []int32                     `json:"extras" ts:"list"` // first slot of what each item has besides the properties of its kind
	World       int32                       `json:"world"`            // first slot of the world transforms
	Stride      int32                       `json:"stride"`           // slots of each of them
	RosterLinks []RosterLink                `json:"spreads" ts:"list"`
	Hidden      []bool                      `json:"hidden" ts:"list"` // by themselves or with what they hang on
	Out         []bool                      `json:"out" ts:"list"`    // not in output, likewise
	Staged      *Staged                     `json:"staged,omitempty"` // what pieces show; absent: there are none
}

// RosterLink is a link on a roster with the members that it has now, which interfaces need not find by themselves.
type RosterLink struct {
	*scene.RosterLink
	Members []scene.Ref `json:"members" ts:"list"` // none of copies, which are as many as are shown
}

// Survey is what all links together come to.
type Survey struct {
	Drives map[string]int `json:"drives"` // how many properties each drives, by "item/property"
	// Followers are the items that each property drives directly, by "item/property".
	Followers map[string][]scene.ID `json:"followers"`
	Checks    []check.Check         `json:"checks" ts:"list"`
	// Formulas are the texts of formula links, with the names of today, by the id of the link on an
	// item ("item/link") or of the link on a roster.
	Formulas map[string]string `json:"formulas"`
}

// Kind is a kind of item with its properties, those that can be set and those that can only be read.
type Kind struct {
	scene.KindInfo
	Drawn    bool   `json:"drawn"`
	Specs    []Spec `json:"specs" ts:"list"`
	Readable []Spec `json:"readable" ts:"list"` // derived; without slots unless a link asks for them
}

// LinkKind is a kind of link, with what it fits.
type LinkKind struct {
	*link.Kind
	Fits map[scene.Type][]scene.Type `json:"fits"` // the targets, whole, that a source of a type can drive; nothing where it has no source
}

// CatalogueView is everything about kinds that never changes.
type CatalogueView struct {
	Kinds []Kind     `json:"kinds" ts:"list"`
	Links []LinkKind `json:"links" ts:"list"`
	// Controls are the kinds of controls.
	Controls []*scene.ControlKind `json:"controls" ts:"list"`
	// Formats are what a composition is exported as.
	Formats []*format.Format `json:"formats" ts:"list"`
	// Recipes are rigs in one step.
	Recipes []*recipes.Recipe `json:"recipes" ts:"list"`
	// Functions and Names are the words of the formula language.
	Functions []*formula.Function `json:"functions" ts:"list"`
	Names     []string            `json:"names" ts:"list"`
	// Operators and Words are what slips are made of besides functions.
	Operators []graph.Operator `json:"operators" ts:"list"`
	Words     []graph.Word     `json:"words" ts:"list"`
	Copies    CopiesLimits     `json:"copies"`
	Longest   float64          `json:"longest"` // that a sound can be, in seconds
	// LargestTable is how large the file of a table can be, in bytes.
	LargestTable int `json:"largestTable"`
	// LargestModel is how large a file that meshes are read from can be, with what belongs to it, in bytes.
	LargestModel int `json:"largestModel"`
	// Easings are those that spans of pins are given by name.
	Easings []curve.Named `json:"easings" ts:"list"`
}

// CopiesLimits is how many copies an item shows at most where nothing is said, and how many it can be told to.
type CopiesLimits struct {
	Usual int `json:"usual"`
	Most  int `json:"most"`
}

// Catalogue describes all kinds and what fits what.
func Catalogue() CatalogueView {
	out := CatalogueView{Easings: curve.Palette}
	for _, k := range scene.Kinds {
		specs := scene.Of(k.Kind)
		kind := Kind{KindInfo: k, Drawn: k.Kind.Drawn()}
		for i, s := range specs {
			kind.Specs = append(kind.Specs, specOf(s, i, -1))
		}
		for _, s := range scene.ReadableOf(k.Kind) {
			kind.Readable = append(kind.Readable, specOf(s, -1, -1))
		}
		out.Kinds = append(out.Kinds, kind)
	}
	for _, k := range link.Kinds() {
		out.Links = append(out.Links, LinkKind{k, k.Pairs()})
	}
	out.Functions, out.Names = formula.Functions, formula.Names()
	out.Recipes, out.Controls, out.Formats = recipes.Recipes, scene.ControlKinds, format.Formats
	out.Longest, out.LargestTable, out.LargestModel = scene.MaxSeconds, scene.MaxTableFile, scene.MaxModelFile
	out.Copies = CopiesLimits{scene.UsualCopies, scene.MaxCopies}
	out.Operators, out.Words = graph.Operators, graph.Words
	return out
}

func specOf(s *scene.Spec, column int, offset int32) Spec {
	out := Spec{Spec: *s, Column: column, Offset: offset, Tag: s.Tag(), Parts: s.Type.Components(), Jumps: s.Jumps(), Spaced: s.Spaced()}
	if s.Type == scene.Colour {
		out.Worked = scene.Hues
	}
	if s.Min > -scene.MaxMagnitude {
		out.Min = &s.Min
	}
	if s.Max < scene.MaxMagnitude {
		out.Max = &s.Max
	}
	if s.Part(0) != s {
		for k := range s.Type.Size() {
			part, held := s.Part(k), scene.Limits{}
			if part.Min > -scene.MaxMagnitude {
				held.Min = &part.Min
			}
			if part.Max < scene.MaxMagnitude {
				held.Max = &part.Max
			}
			out.Held = append(out.Held, held)
		}
	}
	return out
}

// Opened is Of for an interface that has read the project itself, which is as it was when it was opened.
func Opened(s *session.Session, texts int) (View, int) {
	return of(s, texts, true)
}

// Of describes what changed in a working copy since the last call, to an interface that knows the
// given number of texts. It returns how many it knows then.
func Of(s *session.Session, texts int) (View, int) { return of(s, texts, false) }

func of(s *session.Session, texts int, read bool) (View, int) {
	news := s.News()
	c := s.Composition()
	plan := s.Plan()
	trying, tried := s.Trying()
	undo, redo := s.LastSteps()
	v := View{
		Revision: s.Revision, Trying: trying, Tried: tried, LastUndo: undo, LastRedo: redo, Waiting: len(s.Waiting()), CanUndo: s.CanUndo(), CanRedo: s.CanRedo(),
		Name: s.Project.Name, Composition: c.ID, Items: []Item{}, Poses: s.Poses(), Recipes: []OwnRecipe{},
	}
	for _, c := range s.Project.Compositions {
		v.Compositions = append(v.Compositions, compositionOf(c))
	}
	for _, b := range s.Project.Befores {
		v.Befores = append(v.Befores, OwnBefore{b.ID, b.Name, b.Value.ID})
	}
	v.Sets = s.Project.Sets
	for _, r := range s.Project.Recipes {
		v.Recipes = append(v.Recipes, OwnRecipe{r.ID, r.Name, r.Help, r.Fields, r.Slots})
	}
	switch {
	case read:
		v.Known = true
		for i, item := range plan.Layout.Items[:plan.Layout.Own] {
			if specs := specsOf(plan.Layout, int32(i)); len(specs) > 0 {
				v.Specs = append(v.Specs, Specs{item.ID, specs})
			}
		}
	case news.All:
		for i := range plan.Layout.Own {
			v.Items = append(v.Items, itemOf(plan.Layout, int32(i)))
		}
	default:
		for id := range news.Items {
			if i := plan.Layout.Index(id); i >= 0 {
				v.Items = append(v.Items, itemOf(plan.Layout, i))
			}
		}
		for ref := range news.States {
			if item := c.Item(ref.Item); item != nil && !news.Items[ref.Item] {
				v.States = append(v.States, State{ref.Item, ref.Property, item.States[ref.Property]})
			}
		}
	}
	for _, g := range c.Graphs {
		if news.All || read || news.Graphs[g.ID] {
			v.Graphs = append(v.Graphs, g)
		}
	}
	if news.All || len(news.Graphs) > 0 {
		v.GraphOrder = []scene.ID{}
		for _, g := range c.Graphs {
			v.GraphOrder = append(v.GraphOrder, g.ID)
		}
	}
	if news.Structure || news.All {
		v.Structure = structureOf(plan)
	}
	v.Links = news.Links || v.Structure != nil
	if v.Structure != nil || len(plan.Texts()) != texts {
		v.Texts = plan.Texts()
	}
	return v, len(plan.Texts())
}

func itemOf(l *layout.Layout, i int32) Item {
	item := l.Items[i]
	if item.Sound != nil { // its loudness is asked for as what it is over a stretch of time
		quiet, sound := *item, *item.Sound
		sound.Bands = ""
		quiet.Sound, item = &sound, &quiet
	}
	if item.Table != nil { // its cells are asked for as what its columns are
		bare, table := *item, &scene.Table{File: item.Table.File}
		bare.Table, item = table, &bare
	}
	return Item{Item: item, Path: item.Path != nil, EvenOdd: item.Path != nil && item.Path.EvenOdd, Specs: specsOf(l, i)}
}

// specsOf lists what an item has besides the properties of its kind, and those of them that have other limits on it.
func specsOf(l *layout.Layout, i int32) (out []Spec) {
	plain := scene.Of(l.Items[i].Kind)
	for k, spec := range l.Specs(i) {
		switch {
		case k >= len(plain):
			out = append(out, specOf(spec, -1, l.Offset(i, k)))
		case spec != plain[k]:
			out = append(out, specOf(spec, k, -1))
		}
	}
	for _, spec := range l.Items[i].ColumnSpecs() {
		if known, _ := l.FindAt(i, spec.Key); known == nil { // which a link asks for, otherwise
			out = append(out, specOf(spec, -1, -1))
		}
	}
	return out
}

func structureOf(p *engine.Plan) *Structure {
	l := p.Layout
	out := &Structure{Order: []scene.ID{}, Depths: l.Depths[:l.Own], Rows: l.Rows[:l.Own], Extras: l.Extras[:l.Own], Columns: map[scene.Kind][]KindColumn{}, World: l.World, Stride: layout.WorldSize, Hidden: l.Hidden[:l.Own], Out: l.Out[:l.Own], RosterLinks: []RosterLink{}}
	for _, item := range l.Items[:l.Own] {
		out.Order = append(out.Order, item.ID)
	}
	for _, k := range l.Kinds {
		for _, c := range k.Columns {
			out.Columns[k.Kind] = append(out.Columns[k.Kind], KindColumn{c.First, c.Step})
		}
	}
	for _, s := range l.Composition.RosterLinks {
		rosterLink := RosterLink{RosterLink: s, Members: []scene.Ref{}}
		if s.Roster.Kind == scene.CopiesOf { // as many as are shown
			out.RosterLinks = append(out.RosterLinks, rosterLink)
			continue
		}
		for _, m := range s.Members(l.Composition) {
			rosterLink.Members = append(rosterLink.Members, scene.Ref{Item: m.Item.ID, Property: m.Key})
		}
		out.RosterLinks = append(out.RosterLinks, rosterLink)
	}
	out.Staged = stagedOf(p)
	return out
}

// followers lists the items of properties, each once, in the order of the first.
func followers(targets []scene.Ref) []scene.ID {
	var out []scene.ID
	seen := map[scene.ID]bool{}
	for _, t := range targets {
		t.Item, _, _ = scene.LaneOf(t.Item)
		if !seen[t.Item] {
			seen[t.Item] = true
			out = append(out, t.Item)
		}
	}
	return out
}

// SurveyOf counts what drives what and looks everything over.
func SurveyOf(s *session.Session) Survey {
	c := s.Composition()
	drives := link.Drives(c)
	out := Survey{Drives: map[string]int{}, Followers: map[string][]scene.ID{}, Checks: check.Given(c, s.Plan(), drives), Formulas: map[string]string{}}
	if out.Checks == nil {
		out.Checks = []check.Check{}
	}
	scope := wire.ScopeOf(s.Plan().Layout, -1, nil, "")
	shown := func(key string, l *scene.Link) {
		if link.Of(l).Written {
			if out.Formulas[key] = l.Draft; l.Draft == "" {
				out.Formulas[key] = binding.Print(l.Formula, scope)
			}
		}
	}
	for _, item := range c.Items {
		for _, state := range item.States {
			for _, l := range state.Links {
				shown(string(item.ID)+"/"+string(l.ID), l)
			}
		}
	}
	for _, rosterLink := range c.RosterLinks {
		shown(string(rosterLink.ID), rosterLink.Link)
	}
	for source, targets := range drives {
		key := string(source.Item) + "/" + source.Property
		out.Drives[key] = len(targets)
		out.Followers[key] = followers(targets)
	}
	return out
}
