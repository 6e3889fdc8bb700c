package bridge

import (
	"encoding/json"
	"errors"
	"math/rand/v2"
	"runtime/debug"
	"strings"

	"wunderkammer/core/check"
	"wunderkammer/core/engine"
	"wunderkammer/core/format/csv"
	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
	"wunderkammer/core/view"
)

// methods is the table of all calls.
var methods = map[string]func(b *Bridge, argument []byte) (any, error){
	"catalogue": func(*Bridge, []byte) (any, error) { return view.Catalogue(), nil },
	"select":    (*Bridge).selectComposition,
	"do":        changing(do),
	"cancel":    changing(func(s *session.Session, _ []byte) (*changed, error) { s.Cancel(); return &changed{}, nil }),
	"undo":      changing(step((*session.Session).Undo)),
	"redo":      changing(step((*session.Session).Redo)),
	"receive":   changing(receive),
	"samples":   within(samples),
	"read":      within(readOff),
	"vertices":  within(vertices),
	"take":      within(take),
	"trace":     within(trace),
	"series":    within(series),
	"formula":   within(formulaOf),
	"table":     within(table),
	"bake":      within(bake),
	"survey":    within(func(s *session.Session, _ []byte) (any, error) { return view.SurveyOf(s), nil }),
	"response":  within(response),
	"why":       within(walk(check.Why)),
	"reach":     within(walk(check.Reach)),
	"deep":      within(func(s *session.Session, _ []byte) (any, error) { return check.Deep(s.Composition(), s.Plan()), nil }),
	"try out":   changing(tryOut),
	"waiting":   within(func(s *session.Session, _ []byte) (any, error) { return s.Waiting(), nil }),
}

// within hands a call on to what is open.
func within(handler func(*session.Session, []byte) (any, error)) func(*Bridge, []byte) (any, error) {
	return func(b *Bridge, argument []byte) (any, error) {
		if b.session == nil {
			return nil, errors.New("no project is open")
		}
		return handler(b.session, argument)
	}
}

// changing is within for what may change the document: it is answered with what has changed, refused or not; without
// anything where the argument could not be read.
func changing(handler func(*session.Session, []byte) (*changed, error)) func(*Bridge, []byte) (any, error) {
	return func(b *Bridge, argument []byte) (any, error) {
		return within(func(s *session.Session, argument []byte) (any, error) {
			out, err := handler(s, argument)
			if out == nil {
				return nil, err
			}
			return b.viewed(out), err
		})(b, argument)
	}
}

// changed is the answer of every call that may have changed the document.
type changed struct {
	View    view.View  `json:"view"`
	Made    []scene.ID `json:"made,omitempty"`
	Note    string     `json:"note,omitempty"`
	Details []string   `json:"details,omitempty"`
	Dropped []string   `json:"dropped,omitempty"`
}

// viewed adds what has changed since it was last told.
func (b *Bridge) viewed(out *changed) *changed {
	out.View, b.texts = view.Of(b.session, b.texts)
	return out
}

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
		}
		var again []session.Change
		if err := read(document, &a); err != nil {
			return nil, err
		}
		if err := read(unsent, &again); err != nil {
			return nil, err
		}
		if a.Project == nil {
			return nil, errors.New("there is no project to open")
		}
		if err := a.Project.Check(); err != nil {
			return nil, err
		}
		s, dropped := session.Open(a.Project, a.Revision, again, newID)
		b.session = s
		b.tracker.Forget()
		out := &changed{Dropped: dropped}
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
	return json.Unmarshal(argument, to)
}

func (b *Bridge) selectComposition(argument []byte) (any, error) {
	return changing(func(s *session.Session, argument []byte) (*changed, error) {
		var id scene.ID
		if err := json.Unmarshal(argument, &id); err != nil {
			return nil, err
		}
		if err := s.Select(id); err != nil {
			return nil, err
		}
		b.tracker.Forget()
		return &changed{}, nil
	})(b, argument)
}

func do(s *session.Session, argument []byte) (*changed, error) {
	var a struct {
		Gesture string          `json:"gesture"`
		With    json.RawMessage `json:"with"`
		Frame   int             `json:"frame"`
		Preview bool            `json:"preview"`
		ID      string          `json:"id"`
	}
	if err := json.Unmarshal(argument, &a); err != nil {
		return nil, err
	}
	g, err := gesture.Decode(a.Gesture, a.With)
	if err != nil {
		return nil, err
	}
	r, err := s.Do(g, a.Frame, a.Preview, a.ID)
	return &changed{Made: r.Made, Note: r.Note, Details: r.Details}, err
}

func step(back func(*session.Session, string) error) func(*session.Session, []byte) (*changed, error) {
	return func(s *session.Session, argument []byte) (*changed, error) {
		var id string
		if err := json.Unmarshal(argument, &id); err != nil {
			return nil, err
		}
		return &changed{}, back(s, id)
	}
}

func receive(s *session.Session, argument []byte) (*changed, error) {
	var changes []session.Change
	if err := json.Unmarshal(argument, &changes); err != nil {
		return nil, err
	}
	dropped, err := s.Receive(changes)
	return &changed{Dropped: dropped}, err
}

// samples returns the own values of the controls of an item at evenly spaced frames, by the id of
// the control; those without pins are absent.
func samples(s *session.Session, argument []byte) (any, error) {
	var a struct {
		Item     scene.ID `json:"item"`
		From, To float64
		Steps    int
	}
	if err := json.Unmarshal(argument, &a); err != nil {
		return nil, err
	}
	out := map[scene.ID][]float64{}
	if item := s.Composition().Item(a.Item); item != nil {
		for _, c := range item.Controls {
			if v := s.Plan().Sample(item.ID, string(c.ID), a.From, a.To, max(0, min(a.Steps, maxSamples))); v != nil {
				out[c.ID] = v
			}
		}
	}
	return out, nil
}

// readOff returns what can only be read of an item, or its vertices, by key, as it is at the frame
// last evaluated.
func readOff(s *session.Session, argument []byte) (any, error) {
	var a struct {
		Item scene.ID `json:"item"`
		Keys []string `json:"keys"`
	}
	if err := json.Unmarshal(argument, &a); err != nil {
		return nil, err
	}
	out := map[string]scene.Value{}
	if i := s.Plan().Layout.Index(a.Item); i >= 0 {
		for _, key := range a.Keys {
			out[key] = s.Plan().Derived(i, key)
		}
	}
	return out, nil
}

func vertices(s *session.Session, argument []byte) (any, error) {
	var id scene.ID
	if err := json.Unmarshal(argument, &id); err != nil {
		return nil, err
	}
	return view.Vertices(s.Plan(), id), nil
}

// trace returns the path of an item over the whole composition, in at most maxTrace places.
func trace(s *session.Session, argument []byte) (any, error) {
	var id scene.ID
	if err := json.Unmarshal(argument, &id); err != nil {
		return nil, err
	}
	i := s.Plan().Layout.Index(id)
	if i < 0 {
		return nil, nil
	}
	frames := s.Composition().Frames
	return s.Plan().Trace(i, 0, frames-1, 1+frames/maxTrace), nil
}

// maxTrace bounds the places of a motion path.
const maxTrace = 600

// series returns what properties are over a span of frames, for curves.
func series(s *session.Session, argument []byte) (any, error) {
	var a struct {
		Refs     []scene.Ref `json:"refs"`
		From, To float64
		Steps    int
	}
	if err := json.Unmarshal(argument, &a); err != nil {
		return nil, err
	}
	c := s.Composition()
	return s.Plan().Series(a.Refs, c.Held(a.From), c.Held(a.To), max(0, min(a.Steps, maxSamples))), nil
}

// table writes what properties are at every frame of a range as comma-separated values.
func table(s *session.Session, argument []byte) (any, error) {
	var a struct {
		Refs     []scene.Ref `json:"refs"`
		From, To int
	}
	if err := json.Unmarshal(argument, &a); err != nil {
		return nil, err
	}
	var b strings.Builder
	c := s.Composition()
	from := int(c.Held(float64(a.From)))
	err := csv.Write(&b, c, s.Plan(), a.Refs, from, min(int(c.Held(float64(a.To))), from+maxRows))
	return b.String(), err
}

// maxRows bounds the rows of a table.
const maxRows = 100000

// response returns what a map gives over a span of inputs.
func response(s *session.Session, argument []byte) (any, error) {
	var a struct {
		Ref      scene.Ref `json:"ref"`
		Link     scene.ID  `json:"link"`
		From, To float64
		Steps    int
	}
	if err := json.Unmarshal(argument, &a); err != nil {
		return nil, err
	}
	return s.Plan().Response(a.Ref, a.Link, a.From, a.To, max(0, min(a.Steps, maxSamples))), nil
}

// walk answers with a walk along links, from a property.
func walk(along func(*scene.Composition, *engine.Plan, scene.Ref) []check.Step) func(*session.Session, []byte) (any, error) {
	return func(s *session.Session, argument []byte) (any, error) {
		var ref scene.Ref
		if err := json.Unmarshal(argument, &ref); err != nil {
			return nil, err
		}
		return along(s.Composition(), s.Plan(), ref), nil
	}
}

func formulaOf(s *session.Session, argument []byte) (any, error) {
	var a view.FormulaAsk
	if err := json.Unmarshal(argument, &a); err != nil {
		return nil, err
	}
	return view.FormulaOf(s, &a), nil
}

func tryOut(s *session.Session, argument []byte) (*changed, error) {
	var on bool
	if err := json.Unmarshal(argument, &on); err != nil {
		return nil, err
	}
	s.TryOut(on)
	return &changed{}, nil
}

// take returns a clip of items, to be pasted.
func take(s *session.Session, argument []byte) (any, error) {
	var ids []scene.ID
	if err := json.Unmarshal(argument, &ids); err != nil {
		return nil, err
	}
	return gesture.Take(s.Composition(), ids), nil
}

// maxSamples bounds the samples of one call.
const maxSamples = 4000

// newID makes an id of 8 letters and digits: 36^8 is about 3 · 10^12, and the server refuses one
// that is taken.
func newID() scene.ID {
	const alphabet = "abcdefghijklmnopqrstuvwxyz0123456789"
	b := make([]byte, 8)
	for i := range b {
		b[i] = alphabet[rand.IntN(len(alphabet))] // seeded by the browser
	}
	return scene.ID(b)
}

// bake works a bake out a piece further.
func bake(s *session.Session, argument []byte) (any, error) {
	var g gesture.Bake
	if err := json.Unmarshal(argument, &g); err != nil {
		return nil, err
	}
	done, of, err := s.Bake(&g)
	return map[string]int{"done": done, "of": of}, err
}
