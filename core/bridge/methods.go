package bridge

import (
	"encoding/json"
	"errors"
	"iter"
	"math/rand/v2"
	"reflect"
	"runtime"
	"runtime/debug"
	"strings"

	"wunderkammer/core/check"
	"wunderkammer/core/engine"
	"wunderkammer/core/format"
	"wunderkammer/core/format/csv"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/catalogue"
	"wunderkammer/core/gesture/copies"
	"wunderkammer/core/gesture/pins"
	"wunderkammer/core/gesture/poses"
	"wunderkammer/core/graph"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
	"wunderkammer/core/view"
)

// method is a call that a page can make.
type method struct {
	argument, answer reflect.Type
	call             func(b *Bridge, argument []byte) (any, error)
}

// methods is the table of all calls.
var methods = map[string]method{
	"select":  asking((*Bridge).selectComposition),
	"do":      changing(do),
	"cancel":  changing(func(s *session.Session, _ None) (*Changed, error) { s.Cancel(); return &Changed{}, nil }),
	"undo":    changing(step((*session.Session).Undo)),
	"redo":    changing(step((*session.Session).Redo)),
	"receive": changing(receive),
	"try out": changing(func(s *session.Session, on bool) (*Changed, error) { s.TryOut(on); return &Changed{}, nil }),
	"recall": changing(func(s *session.Session, a Recalled) (*Changed, error) {
		s.Recall(a.Undo, a.Redo, a.Known)
		return &Changed{}, nil
	}),
	"keep tried": changing(func(s *session.Session, id string) (*Changed, error) { s.KeepTried(id); return &Changed{}, nil }),
	"samples":    within(samples),
	"read":       within(readOff),
	"vertices":   within(func(s *session.Session, id scene.ID) ([]view.Vertex, error) { return view.Vertices(s.Plan(), id), nil }),
	"take": within(func(s *session.Session, ids []scene.ID) (copies.Clip, error) {
		return copies.Take(s.Project.ID, s.Composition(), ids), nil
	}),
	"control for": within(func(s *session.Session, ref scene.Ref) (*scene.Control, error) { return s.ControlFor(ref) }),
	"performable": within(func(s *session.Session, ref scene.Ref) (None, error) { return None{}, s.Performable(ref) }),
	"looks shown": within(func(s *session.Session, _ None) ([]scene.ID, error) { return s.LooksShown(), nil }),
	"before":      within(func(s *session.Session, id scene.ID) (*scene.Project, error) { return view.BeforeOf(s, id) }),
	"differences": within(func(s *session.Session, id scene.ID) ([]view.Difference, error) { return view.DifferencesOf(s, id) }),
	"easing":      within(func(_ *session.Session, a view.EasingAsk) (view.EasingView, error) { return view.EasingOf(a) }),
	"copy pins": within(func(s *session.Session, named []gesture.PinAt) (pins.PinClip, error) {
		return pins.Copy(s.Composition(), named), nil
	}),
	"paste asks": within(func(s *session.Session, clip copies.Clip) ([]scene.SavedSlot, error) {
		return copies.Asks(s.Project.ID, s.Composition(), &clip), nil
	}),
	"trace":         within(trace),
	"path":          within(view.PathOf),
	"curves":        within(curves),
	"alike":         within(alike),
	"void":          within(void),
	"fits":          within(func(s *session.Session, a view.FitAsk) ([]graph.Fit, error) { return view.FitsOf(s, a), nil }),
	"about slip":    within(func(s *session.Session, a view.AboutAsk) (view.AboutSlip, error) { return view.AboutOf(s, a), nil }),
	"slips":         within(func(s *session.Session, a view.GraphAsk) (view.ShownGraph, error) { return view.SlipsOf(s, a), nil }),
	"slip values":   within(func(s *session.Session, a view.ValuesAsk) ([][]scene.Value, error) { return view.ValuesOf(s, a), nil }),
	"reckon":        within(func(s *session.Session, text string) (view.Reckoned, error) { return view.Reckon(s, text), nil }),
	"formula":       within(func(s *session.Session, a view.FormulaAsk) (view.Formula, error) { return view.FormulaOf(s, &a), nil }),
	"gatherables":   within(func(s *session.Session, _ None) ([]view.Gatherable, error) { return view.GatherablesOf(s), nil }),
	"table":         within(table),
	"read table":    within(readTable),
	"pictures in":   within(picturesIn),
	"bake":          within(bake),
	"moment":        within(moment),
	"lacks":         within(lacks),
	"failing":       within(func(s *session.Session, _ None) ([]format.Lack, error) { return format.Failing(s.Plan()), nil }),
	"rehearse":      asking((*Bridge).rehearse),
	"write":         asking((*Bridge).write),
	"survey":        within(func(s *session.Session, _ None) (view.Survey, error) { return view.SurveyOf(s), nil }),
	"response":      within(response),
	"slip response": within(slipResponse),
	"why":           within(walk(check.Why)),
	"reach":         within(walk(check.Reach)),
	"deep": within(func(s *session.Session, _ None) ([]check.Check, error) {
		return check.Deep(s.Composition(), s.Plan()), nil
	}),
	"project": within(func(s *session.Session, _ None) (*scene.Project, error) { return s.Project, nil }),
	"waiting": within(func(s *session.Session, _ None) ([]session.Change, error) { return s.Waiting(), nil }),
}

// Methods gives the name of every call, with the types of its argument and of its answer.
func Methods() iter.Seq2[string, [2]reflect.Type] {
	return func(yield func(string, [2]reflect.Type) bool) {
		for name, m := range methods {
			if !yield(name, [2]reflect.Type{m.argument, m.answer}) {
				return
			}
		}
	}
}

// Recalled is the steps back that a page had before its core broke, by the ids of the changes that made them, with those
// of them that the server has.
type Recalled struct {
	Undo  []string           `json:"undo"`
	Redo  []string           `json:"redo"`
	Known []session.PastStep `json:"known"`
}

// None is the argument of a call that takes none.
type None struct{}

// asking makes a method of a function: what the argument has to be stands in its type.
func asking[A, R any](run func(*Bridge, A) (R, error)) method {
	return method{reflect.TypeFor[A](), reflect.TypeFor[R](), func(b *Bridge, argument []byte) (any, error) {
		var a A
		if err := scene.ReadExactly(argument, &a); err != nil {
			return nil, err
		}
		answer, err := run(b, a)
		if v := reflect.ValueOf(answer); v.Kind() == reflect.Pointer && v.IsNil() {
			return nil, err
		}
		return answer, err
	}}
}

// within hands a call on to what is open.
func within[A, R any](run func(*session.Session, A) (R, error)) method {
	return asking(func(b *Bridge, a A) (answer R, err error) {
		if b.session == nil {
			return answer, errors.New("no project is open")
		}
		return run(b.session, a)
	})
}

// changing is within for what may change the document: it is answered with what has changed, refused or not; without
// anything where nothing was tried.
func changing[A any](run func(*session.Session, A) (*Changed, error)) method {
	return asking(func(b *Bridge, a A) (*Changed, error) {
		if b.session == nil {
			return nil, errors.New("no project is open")
		}
		out, err := run(b.session, a)
		if out == nil {
			return nil, err
		}
		return b.viewed(out), err
	})
}

// Changed is the answer of every call that may have changed the document.
type Changed struct {
	View    view.View       `json:"view"`
	Made    []scene.ID      `json:"made,omitempty"` // items and controls
	Note    string          `json:"note,omitempty"`
	Details []string        `json:"details,omitempty"` // what the note is about, one thing each
	Pins    []gesture.PinAt `json:"pins,omitempty"`    // that the gesture leaves in the hand
	Asks    string          `json:"asks,omitempty"`    // what has to be said before the gesture is made; the note says why
	Dropped []string        `json:"dropped,omitempty"` // changes that could not be kept
}

// viewed adds what has changed since it was last told.
func (b *Bridge) viewed(out *Changed) *Changed {
	out.View, b.texts = view.Of(b.session, b.texts)
	return out
}

// largeDocument is how long a document is, in bytes, whose reading leaves so much behind that it is worth the time to clean up.
const largeDocument = 8 << 20

// Open opens a project as the server has sent it, with its revision, and makes changes again that are not saved. It
// answers as Call does. Where there are none, the page is not told of the items, which it has read itself.
func (b *Bridge) Open(document, unsent []byte) string {
	return guarded("open", func() (any, error) {
		// A project of thousands of items leaves much behind while it is read, which would be cleaned up many times
		// over in the one thread of a worker.
		defer debug.SetGCPercent(debug.SetGCPercent(400))
		var a struct {
			Project  *scene.Project `json:"project"`
			Revision int            `json:"revision"`
			Checked  bool           `json:"checked"` // the server has looked it over
		}
		var again []session.Change
		if err := read(document, &a); err != nil {
			return nil, err
		}
		if err := read(unsent, &again); err != nil {
			return nil, err
		}
		large := len(document) > largeDocument
		document = nil
		if large { // what reading left behind goes before more is made: within one call the one thread of a worker hardly gets to it
			runtime.GC()
		}
		if a.Project == nil {
			return nil, errors.New("there is no project to open")
		}
		if !a.Checked {
			if err := a.Project.Check(); err != nil {
				return nil, err
			}
		}
		s, dropped := session.Open(a.Project, a.Revision, again, newID)
		b.session = s
		b.forget()
		out := &Changed{Dropped: dropped}
		if len(again) > 0 {
			return b.viewed(out), nil
		}
		out.View, b.texts = view.Opened(s, b.texts)
		return out, nil
	})
}

func read(argument []byte, to any) error {
	if err := scene.CheckJSON(argument); err != nil {
		return err
	}
	return scene.PlainJSON(json.Unmarshal(argument, to))
}

func (b *Bridge) selectComposition(id scene.ID) (*Changed, error) {
	if b.session == nil {
		return nil, errors.New("no project is open")
	}
	if err := b.session.Select(id); err != nil {
		return nil, err
	}
	b.forget()
	return b.viewed(&Changed{}), nil
}

// Do asks for a gesture by its name, with its own fields.
type Do struct {
	Gesture string          `json:"gesture"`
	With    json.RawMessage `json:"with"`
	Frame   int             `json:"frame"`
	Preview bool            `json:"preview"`          // for the time being: the next one takes its place
	ID      string          `json:"id,omitempty"`     // of the change that it makes; the same one twice is made once
	Pin     bool            `json:"pin,omitempty"`    // whatever is set is pinned at the frame
	Posing  *poses.AtStop   `json:"posing,omitempty"` // whatever is set belongs to this stop of a control of poses
}

func do(s *session.Session, a Do) (*Changed, error) {
	g, err := catalogue.Decode(a.Gesture, a.With)
	if err != nil {
		return nil, err
	}
	r, err := s.Do(g, session.Options{Frame: a.Frame, Preview: a.Preview, ID: a.ID, AutoPin: a.Pin, Posing: a.Posing})
	return &Changed{Made: r.Made, Note: r.Note, Details: r.Details, Pins: r.Pins, Asks: r.Asks}, err
}

func step(back func(*session.Session, string) error) func(*session.Session, string) (*Changed, error) {
	return func(s *session.Session, id string) (*Changed, error) { return &Changed{}, back(s, id) }
}

func receive(s *session.Session, changes []session.Change) (*Changed, error) {
	dropped, err := s.Receive(changes)
	return &Changed{Dropped: dropped}, err
}

// Span is evenly spaced places from one to another: frames, or inputs of a map.
type Span struct {
	From  float64 `json:"from"`
	To    float64 `json:"to"`
	Steps int     `json:"steps"`
}

// most is the number of its places, within bounds.
func (s Span) most() int { return max(0, min(s.Steps, maxSamples)) }

// maxSamples bounds the samples of one call.
const maxSamples = 4000

// lacks lists what of the composition a format can't hold.
func lacks(s *session.Session, key string) ([]format.Lack, error) {
	f := format.Of(key)
	if f == nil {
		return nil, errors.New("there is no format " + scene.Clip(key))
	}
	return f.Lacks(s.Plan()), nil
}

// SamplesAsk asks for the own values of what has pins of items.
type SamplesAsk struct {
	Items []scene.ID `json:"items"`
	Span
}

// Samples are own values at evenly spaced frames, component after component, by the key of the property.
type Samples map[string][]float64

// samples returns the own values of the properties of items that have pins, and what sounds are heard as.
func samples(s *session.Session, a SamplesAsk) (map[scene.ID]Samples, error) {
	out := map[scene.ID]Samples{}
	for _, id := range a.Items {
		item := s.Composition().Item(id)
		if item == nil {
			continue
		}
		of := Samples{}
		for key, state := range item.States {
			if len(state.Pins) == 0 {
				continue
			}
			if v := s.Plan().Sample(id, key, a.From, a.To, a.most()); v != nil {
				of[key] = v
			}
		}
		if item.Sound != nil {
			for _, key := range scene.SoundBands {
				of[key] = s.Plan().Sample(id, key, a.From, a.To, a.most())
			}
		}
		out[id] = of
	}
	return out, nil
}

// ReadAsk asks for what can only be read of an item, or its vertices, by key.
type ReadAsk struct {
	Item scene.ID `json:"item"`
	Keys []string `json:"keys"`
}

// readOff returns what is asked for as it is at the frame last evaluated.
func readOff(s *session.Session, a ReadAsk) (map[string]scene.Value, error) {
	out := map[string]scene.Value{}
	if i := s.Plan().Layout.Index(a.Item); i >= 0 {
		for _, key := range a.Keys {
			out[key] = s.Plan().Derived(i, key)
		}
	}
	return out, nil
}

// trace returns the path of an item over the whole composition, in at most maxTrace places.
func trace(s *session.Session, id scene.ID) ([][3]float64, error) {
	i := s.Plan().Layout.Index(id)
	if i < 0 {
		return nil, nil
	}
	frames := s.Composition().Frames
	return s.Plan().Trace(i, 0, frames-1, 1+frames/maxTrace), nil
}

// maxTrace bounds the places of a motion path.
const maxTrace = 600

// CurvesAsk asks for what properties, and what drives them, are over a span of frames.
type CurvesAsk struct {
	Refs  []scene.Ref `json:"refs"`
	Speed bool        `json:"speed,omitempty"` // how fast they change, per second
	Span
}

func curves(s *session.Session, a CurvesAsk) ([]view.Curve, error) {
	return view.CurvesOf(s, a.Refs, a.From, a.To, a.most(), a.Speed), nil
}

// AlikeAsk asks which links of items are edited together with a link of the first of them.
type AlikeAsk struct {
	Items    []scene.ID `json:"items"`
	Property string     `json:"property"`
	Link     scene.ID   `json:"link"`
}

func alike(s *session.Session, a AlikeAsk) ([]view.ItemLink, error) {
	return view.Alike(s, a.Items, a.Property, a.Link), nil
}

// VoidAsk asks which choices of a link give nothing: of one on a property of an item, or of one on a row.
type VoidAsk struct {
	Item       scene.ID `json:"item,omitempty"`
	Property   string   `json:"property,omitempty"`
	Link       scene.ID `json:"link,omitempty"`
	RosterLink scene.ID `json:"spread,omitempty"`
}

func void(s *session.Session, a VoidAsk) ([]string, error) {
	c := s.Composition()
	if row, _ := c.RosterLink(a.RosterLink); row != nil {
		return link.VoidOnRow(c, row), nil
	}
	item := c.Item(a.Item)
	if item == nil {
		return nil, nil
	}
	spec := item.Spec(a.Property)
	if l, _ := item.State(a.Property).Link(a.Link); l != nil && spec != nil {
		return link.Void(item, spec, l), nil
	}
	return nil, nil
}

// TableAsk asks for what properties are at every frame of a range.
type TableAsk struct {
	Refs []scene.Ref `json:"refs"`
	From int         `json:"from"`
	To   int         `json:"to"`
}

// table writes what properties are at every frame of a range as comma-separated values.
func table(s *session.Session, a TableAsk) (string, error) {
	var b strings.Builder
	c := s.Composition()
	from := int(c.Held(float64(a.From)))
	err := csv.Write(&b, c, s.Plan(), a.Refs, from, min(int(c.Held(float64(a.To))), from+maxRows))
	return b.String(), err
}

// maxRows bounds the rows of a table.
const maxRows = 100000

// ResponseAsk asks for what the map of a link gives over a span of inputs; or, where a link on a row is named, what its stagger is
// multiplied by over a span of shares.
type ResponseAsk struct {
	Ref        scene.Ref `json:"ref"`
	Link       scene.ID  `json:"link"`
	RosterLink scene.ID  `json:"spread,omitempty"`
	Span
}

// SlipResponseAsk asks how a map slip answers over a range of inputs, as ResponseAsk does for a link.
type SlipResponseAsk struct {
	Graph scene.ID `json:"graph"`
	Slip  scene.ID `json:"slip"`
	Span
}

func slipResponse(s *session.Session, a SlipResponseAsk) ([]float64, error) {
	return view.ResponseOf(s.Composition(), a.Graph, a.Slip, a.From, a.To, a.most()), nil
}

func response(s *session.Session, a ResponseAsk) ([]float64, error) {
	if a.RosterLink != "" {
		return view.StaggerOf(s.Composition(), a.RosterLink, a.From, a.To, a.most()), nil
	}
	return s.Plan().Response(a.Ref, a.Link, a.From, a.To, a.most()), nil
}

// walk answers with a walk along links, from a property.
func walk(along func(*scene.Composition, *engine.Plan, scene.Ref) []check.Step) func(*session.Session, scene.Ref) ([]check.Step, error) {
	return func(s *session.Session, ref scene.Ref) ([]check.Step, error) {
		return along(s.Composition(), s.Plan(), ref), nil
	}
}

// Progress is how far something is.
type Progress struct {
	Done int `json:"done"`
	Of   int `json:"of"`
}

// bake works a bake out a piece further.
func bake(s *session.Session, g pins.Bake) (Progress, error) {
	done, of, err := s.Bake(&g)
	return Progress{done, of}, err
}

// newID makes an id of 12 letters and digits: 36^12 is about 5 · 10^18, so that a hundred thousand made at once meet none that is taken.
func newID() scene.ID {
	const alphabet = "abcdefghijklmnopqrstuvwxyz0123456789"
	b := make([]byte, 12)
	for i := range b {
		b[i] = alphabet[rand.IntN(len(alphabet))] // seeded by the browser
	}
	return scene.ID(b)
}
