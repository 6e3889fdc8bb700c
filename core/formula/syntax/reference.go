package syntax

import (
	"fmt"
	"strconv"
	"strings"
	"sync"

	"wunderkammer/core/scene"
)

// Reference is what stands between braces: an owner, and mostly a property of it.
//
// It is kept in one of two forms. As typed, it holds names. Bound, it holds the id of the owner and
// the key of the property, each behind an @, so that no renaming breaks it.
type Reference struct {
	Relative string // self, parent, prev, next, first, last, partner; empty for an item
	Steps    int    // of prev and next; 1 where nothing is said
	Outer    int    // how many rosters further out
	Owner    string // the name as typed
	Which    int    // of several items with that name, from 1; 0 where nothing is said
	Item     scene.ID
	Of       scene.GatheringKind // where it stands for many: the pattern of their names is Owner, what they hang on and the row are Item
	Property string              // as typed; empty for the item itself
	ByName   bool                // each of many finds its property by this name, and there is no key
	Key      string              // of the property
	Part     string              // component

	At, End                 int // in the formula, without the braces
	PropertyAt, PropertyEnd int
}

// relatives are the owners that depend on where the formula stands.
var relatives = map[string]bool{"self": true, "parent": true, "prev": true, "next": true, "first": true, "last": true, "partner": true}

// ParseReference reads what stands between braces, from byte at of the formula on.
func ParseReference(text string, at int) (*Reference, *Problem) {
	r := &Reference{Steps: 1, At: at, End: at + len(text)}
	colon := unquotedIndex(text, ':')
	owner, property := text, ""
	if colon >= 0 {
		owner, property = text[:colon], text[colon+1:]
		r.PropertyAt, r.PropertyEnd = at+colon+1, r.End
	}
	if p := r.readOwner(strings.TrimSpace(owner)); p != nil {
		return nil, p
	}
	property = strings.TrimSpace(property)
	switch {
	case colon >= 0 && property == "":
		return nil, &Problem{At: at, End: r.End, Sentence: "the reference has no property after the colon"}
	case strings.HasPrefix(property, `@"`):
		name, rest := property[1:], ""
		if end := strings.LastIndexByte(name, '"'); end > 0 {
			name, rest = name[:end+1], name[end+1:]
		}
		r.ByName, r.Property, r.Part = true, Unquote(name), strings.TrimPrefix(rest, ".")
	case strings.HasPrefix(property, "@"):
		key := property[1:]
		from := max(0, strings.LastIndexByte(key, ']'))
		if dot := strings.IndexByte(key[from:], '.'); dot >= 0 {
			key, r.Part = key[:from+dot], key[from+dot+1:]
		}
		r.Key = key
	default:
		r.Property = property
	}
	return r, nil
}

func (r *Reference) readOwner(owner string) *Problem {
	switch {
	case owner == "":
		return &Problem{At: r.At, End: r.End, Sentence: "the reference has no owner; write it as Owner: property"}
	case strings.HasPrefix(owner, "@"):
		if !r.readBoundMany(owner[1:]) {
			r.Item = scene.ID(owner[1:])
		}
		return nil
	}
	if item, many := r.readMany(owner); many {
		if r.Of == scene.OfNames {
			return nil
		}
		owner = item
	}
	words := strings.Fields(strings.ToLower(owner))
	for len(words) > 1 && words[0] == "outer" {
		r.Outer++
		words = words[1:]
	}
	if len(words) > 0 && relatives[words[0]] && len(words) <= 2 {
		steps := 1
		var err error
		if len(words) == 2 {
			steps, err = strconv.Atoi(words[1])
		}
		if err == nil && steps > 0 && steps < 100000 {
			r.Relative, r.Steps = words[0], steps
			return nil
		}
	}
	r.Outer = 0
	r.Owner = Unquote(owner)
	if tilde := strings.LastIndexByte(owner, '~'); tilde > 0 && !strings.HasPrefix(owner, `"`) || strings.Contains(owner, `"~`) {
		tilde = strings.LastIndexByte(owner, '~')
		if n, err := strconv.Atoi(owner[tilde+1:]); err == nil && n > 0 {
			r.Which, r.Owner = n, Unquote(strings.TrimSpace(owner[:tilde]))
		}
	}
	return nil
}

func unquotedIndex(s string, c byte) int {
	quoted := false
	for i := range len(s) {
		switch {
		case s[i] == '"':
			quoted = !quoted
		case s[i] == c && !quoted:
			return i
		}
	}
	return -1
}

// Quote puts a name in quotes where it holds something that means something in a reference.
func Quote(name string) string {
	if strings.ContainsAny(name, ":{}.~@*\n") || relatives[strings.ToLower(strings.TrimSpace(name))] || strings.TrimSpace(name) != name || name == "" {
		return `"` + strings.ReplaceAll(name, `"`, "'") + `"`
	}
	return name
}

// Unquote returns a name without the quotes that Quote puts around it.
func Unquote(s string) string {
	if len(s) >= 2 && s[0] == '"' && s[len(s)-1] == '"' {
		return s[1 : len(s)-1]
	}
	return s
}

// Bound writes the reference as it is stored: by ids.
func (r *Reference) Bound() string {
	var b strings.Builder
	b.WriteByte('{')
	switch {
	case r.Of == scene.OfNames:
		b.WriteString(`@*"` + strings.ReplaceAll(r.Owner, `"`, "'") + `"`)
	case r.Of == scene.OfRow:
		b.WriteString("@" + string(r.Item) + " *")
	case r.Relative == "":
		b.WriteString(r.manyOf("@" + string(r.Item)))
	default:
		b.WriteString(r.manyOf(r.Owning()))
	}
	if r.ByName {
		b.WriteString(`:@"` + strings.ReplaceAll(r.Property, `"`, "'") + `"`)
		if r.Part != "" {
			b.WriteString("." + r.Part)
		}
	}
	if r.Key != "" {
		b.WriteString(":@" + r.Key)
		if r.Part != "" {
			b.WriteString("." + r.Part)
		}
	}
	b.WriteByte('}')
	return b.String()
}

// Bound writes a reference to a property, by ids.
func Bound(ref scene.Ref) string {
	return (&Reference{Item: ref.Item, Key: ref.Property, Part: ref.Component}).Bound()
}

// Owning writes who owns what is referred to, where it is told by its place: prev 2, outer self.
func (r *Reference) Owning() string {
	s := strings.Repeat("outer ", r.Outer) + r.Relative
	if r.Steps > 1 {
		s += " " + strconv.Itoa(r.Steps)
	}
	return s
}

// rooms are slices for tokens, to be used again: projects of many formulas are looked through for their references at every turn.
var rooms = sync.Pool{New: func() any { return new([]token) }}

// EachReference calls with every reference of a formula and where it stands, braces included; with none
// where the formula cannot be cut into tokens.
func EachReference(text string, visit func(r *Reference, at, end int)) {
	if !strings.ContainsRune(text, '{') {
		return
	}
	room := rooms.Get().(*[]token)
	defer rooms.Put(room)
	tokens, problem := scanInto(*room, text)
	if problem != nil {
		return
	}
	*room = tokens
	for _, t := range tokens {
		if t.Kind != tokenRef {
			continue
		}
		if r, p := ParseReference(t.Text, t.at+1); p == nil {
			visit(r, t.at, t.end)
		}
	}
}

// References lists what a stored formula refers to, in the order in which it stands there; nothing
// of a formula that cannot be read.
func References(stored string) []*Reference {
	var out []*Reference
	EachReference(stored, func(r *Reference, _, _ int) {
		out = append(out, r)
		r.number(func(inside string) string {
			out = append(out, References(inside)...)
			return inside
		})
	})
	return out
}

// ReplaceReferences returns a formula with its references written otherwise.
func ReplaceReferences(text string, write func(*Reference) string) string {
	var b strings.Builder
	last := 0
	EachReference(text, func(r *Reference, at, end int) {
		b.WriteString(text[last:at])
		r.number(func(inside string) string { return ReplaceReferences(inside, write) })
		b.WriteString(write(r))
		last = end
	})
	b.WriteString(text[last:])
	return b.String()
}

// Redirected returns a stored formula that refers to a control where it is on another item now. One that was reached as that of self
// or of the parent is referred to by its item: no other has it.
func Redirected(stored string, from scene.Ref, to scene.ID) string {
	return releaded(stored, func(r *Reference) {
		if r.Key == from.Property && (r.Item == from.Item || r.Relative != "") {
			r.Relative, r.Steps, r.Outer, r.Item = "", 1, 0, to
		}
	})
}

// number rewrites the formula of the number of a vertex, where the reference holds one.
func (r *Reference) number(rewrite func(inside string) string) {
	for _, text := range []*string{&r.Key, &r.Property} {
		if inside, rest, ok := CutVertices(*text); ok && inside != "" {
			*text = strings.TrimSpace(*text)[:strings.IndexByte(strings.TrimSpace(*text), '[')+1] + rewrite(inside) + "]" + rest
		}
	}
}

// Renamed returns a stored formula in which every id of an item or control that has another in the
// table stands for that other: what a copy of items needs.
func Renamed(stored string, ids func(scene.ID) (scene.ID, bool)) string {
	return releaded(stored, func(r *Reference) {
		if to, ok := ids(r.Item); ok {
			r.Item = to
		}
		if to, ok := ids(scene.ID(r.Key)); ok {
			r.Key = string(to)
		}
	})
}

// releaded returns a stored formula whose references were altered; one that is bound to nothing stays as it was typed.
func releaded(stored string, alter func(*Reference)) string {
	return ReplaceReferences(stored, func(r *Reference) string {
		alter(r)
		if !r.Owned() {
			return "{" + r.Typed() + "}"
		}
		return r.Bound()
	})
}

// Owned reports whether it is known who owns what is referred to: by an id, by the place, or by a pattern, which is looked for anew at
// every change.
func (r *Reference) Owned() bool { return r.Item != "" || r.Relative != "" || r.Of == scene.OfNames }

// Typed writes a reference that was never bound as it was typed.
func (r *Reference) Typed() string {
	owner := Quote(r.Owner)
	switch {
	case r.Of == scene.OfNames:
		owner = Pattern(r.Owner)
	case r.Relative != "":
		owner = r.Owning()
	}
	if r.Which > 0 {
		owner += "~" + strconv.Itoa(r.Which)
	}
	owner = r.manyOf(owner)
	if r.Property == "" {
		return owner
	}
	return fmt.Sprintf("%s: %s", owner, r.Property)
}

// verticesKey begins the key of a vertex whose number is a formula; worldPrefix before it that of its place in the
// composition.
const (
	verticesKey = "vertices["
	WorldPrefix = "world."
)

// Vertices reports whether a key stands for the vertex of a path that a formula chooses: for any of them.
func Vertices(key string) bool {
	return strings.HasPrefix(strings.TrimPrefix(key, WorldPrefix), verticesKey)
}

// CutVertices takes vertices[4].y apart, or world.vertices[4].y: what stands in the brackets, and what behind them.
func CutVertices(text string) (inside, rest string, ok bool) {
	text = strings.TrimSpace(text)
	if len(text) > len(WorldPrefix) && strings.EqualFold(text[:len(WorldPrefix)], WorldPrefix) {
		text = text[len(WorldPrefix):]
	}
	end := strings.LastIndexByte(text, ']')
	if end < len(verticesKey) || !strings.EqualFold(text[:len(verticesKey)], verticesKey) {
		return "", "", false
	}
	return strings.TrimSpace(text[len(verticesKey):end]), text[end+1:], true
}

// Chosen returns the formula of the number of a vertex, and fills in its key and component; nothing where
// the number itself is given.
func (r *Reference) Chosen() (number string) {
	if inside, _, ok := CutVertices(r.Key); ok {
		return inside
	}
	inside, rest, ok := CutVertices(r.Property)
	if _, err := strconv.Atoi(inside); !ok || inside == "" || err == nil {
		return ""
	}
	if r.Key == "" {
		r.Key = verticesKey + inside + "]"
		if strings.HasPrefix(scene.Fold(r.Property), WorldPrefix) {
			r.Key = WorldPrefix + r.Key
		}
		r.Part = scene.Fold(strings.TrimPrefix(strings.TrimSpace(rest), "."))
	}
	return inside
}

// TypedAs writes a reference of which only the owner is known.
func (r *Reference) TypedAs(item *scene.Item) string {
	owner := r.Owning()
	if r.Relative == "" {
		owner = "@" + string(item.ID)
	}
	owner = r.manyOf(owner)
	return owner + ": " + r.Property
}
