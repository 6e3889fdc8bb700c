// Package contract writes down what the page and the core say to each other as types of TypeScript, from the types of
// Go that are read and written, with their comments.
package contract

import (
	"encoding/json"
	"fmt"
	"maps"
	"reflect"
	"slices"
	"strings"

	"wunderkammer/core/bridge"
	"wunderkammer/core/change"
	"wunderkammer/core/check"
	"wunderkammer/core/formula"
	"wunderkammer/core/gesture/catalogue"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
	"wunderkammer/core/view"
)

// named are the types that are called something else on the page than their name in Go.
var named = map[reflect.Type]string{
	reflect.TypeFor[scene.ID]():           "Id",
	reflect.TypeFor[scene.Type]():         "ValueType",
	reflect.TypeFor[scene.Kind]():         "ItemKind",
	reflect.TypeFor[scene.Class]():        "ItemClass",
	reflect.TypeFor[scene.Frame]():        "PictureFrame",
	reflect.TypeFor[scene.Item]():         "SceneItem",
	reflect.TypeFor[scene.Composition]():  "SceneComposition",
	reflect.TypeFor[scene.RosterLink]():   "SceneRosterLink",
	reflect.TypeFor[scene.Vertex]():       "PathVertex",
	reflect.TypeFor[scene.Part]():         "ProjectPart",
	reflect.TypeFor[view.State]():         "StateOf",
	reflect.TypeFor[view.Specs]():         "SpecsOf",
	reflect.TypeFor[view.Formula]():       "FormulaView",
	reflect.TypeFor[view.Problem]():       "FormulaProblem",
	reflect.TypeFor[view.Fix]():           "FormulaFix",
	reflect.TypeFor[view.Line]():          "FormulaLine",
	reflect.TypeFor[view.CatalogueView](): "Catalogue",
	reflect.TypeFor[check.Step]():         "Reason",
	reflect.TypeFor[scene.Operation]():    "LinkOperation",
	reflect.TypeFor[formula.Function]():   "FormulaFunction",
	reflect.TypeFor[view.LinkKind]():      "LinkKindInfo",
}

// plain are the types that are written out in JSON by rules of their own.
var plain = map[reflect.Type]string{
	reflect.TypeFor[scene.Value]():     "Value",
	reflect.TypeFor[scene.MeshShape](): "string", // packed
	reflect.TypeFor[change.Ops]():      "Operation[]",
	reflect.TypeFor[change.Exact]():    "Operation[]",
	reflect.TypeFor[json.RawMessage](): "unknown",
	reflect.TypeFor[bridge.None]():     "null",
}

// Write returns the types as a file of TypeScript. The comments are read from the sources of Go below root.
func Write(root string) ([]byte, error) {
	docs, err := ReadDocs(root, "core")
	if err != nil {
		return nil, err
	}
	w := &writer{docs: docs, done: map[string]string{}, types: map[string]reflect.Type{}}
	operations, gestures, methods := &strings.Builder{}, &strings.Builder{}, &strings.Builder{}
	for name, op := range change.All() {
		fmt.Fprintf(operations, "  | ({ op: '%s' } & %s)\n", name, w.asked(reflect.TypeOf(op).Elem()))
	}
	for name, g := range catalogue.All() {
		fmt.Fprintf(gestures, "%s  '%s': %s\n", w.comment(reflect.TypeOf(g).Elem(), "", "  "), name, w.asked(reflect.TypeOf(g).Elem()))
	}
	all := maps.Collect(bridge.Methods())
	for _, name := range slices.Sorted(maps.Keys(all)) {
		fmt.Fprintf(methods, "  '%s': { argument: %s; answer: %s }\n", name, w.argument(all[name][0]), w.nullable(all[name][1]))
	}
	w.of(reflect.TypeFor[scene.Project]())
	w.of(reflect.TypeFor[view.CatalogueView]())
	w.of(reflect.TypeFor[session.Change]())
	var b strings.Builder
	b.WriteString("/** What the page and the core say to each other. Written by `make contract` from the types of Go: change those. */\n\n")
	b.WriteString("/** A value of a property; null: none was set. */\nexport type Value = number | string | number[] | null\n\n")
	for _, name := range slices.Sorted(maps.Keys(w.done)) {
		b.WriteString(w.done[name])
		b.WriteByte('\n')
	}
	fmt.Fprintf(&b, "/** An edit of the document, with what it needs to know and nothing else. */\nexport type Operation =\n%s\n", operations)
	fmt.Fprintf(&b, "/** What a hand does, by its name. */\nexport interface Gestures {\n%s}\n\n", gestures)
	fmt.Fprintf(&b, "/** The calls of the core, by their name. */\nexport interface Methods {\n%s}\n", methods)
	if len(w.wrong) > 0 {
		return nil, fmt.Errorf("%s", strings.Join(w.wrong, "; "))
	}
	return []byte(b.String()), nil
}

type writer struct {
	docs   Docs
	done   map[string]string       // by name
	types  map[string]reflect.Type // that have the name
	wrong  []string
	indent string
	input  bool // what is written goes to the core, where what is left out is empty
}

// asked writes the fields of what goes to the core.
func (w *writer) asked(t reflect.Type) string {
	w.input, w.indent = true, "  "
	defer func() { w.input, w.indent = false, "" }()
	return w.body(t)
}

// argument writes the type of what a call is given.
func (w *writer) argument(t reflect.Type) string {
	if t.Kind() == reflect.Struct && t != reflect.TypeFor[scene.Ref]() && plain[t] == "" {
		return w.asked(t)
	}
	return w.of(t)
}

// of returns the type as it is written where it is used, and notes what it is if it has a name.
func (w *writer) of(t reflect.Type) string {
	if s, ok := plain[t]; ok {
		return s
	}
	switch t.Kind() {
	case reflect.Pointer:
		return w.of(t.Elem())
	case reflect.Struct:
		if t.Name() == "" {
			return w.body(t)
		}
		return w.note(t, func(name string) string { return fmt.Sprintf("export interface %s %s\n", name, w.body(t)) })
	case reflect.String:
		if t.PkgPath() == "" {
			return "string"
		}
		return w.note(t, func(name string) string { return fmt.Sprintf("export type %s = %s\n", name, w.words(t)) })
	case reflect.Slice, reflect.Array:
		if t.Kind() == reflect.Slice && t.Elem().Kind() == reflect.Uint8 { // in base64
			return "string"
		}
		of := w.of(t.Elem())
		if t.Kind() == reflect.Array && t.Len() <= 4 {
			return "[" + strings.TrimSuffix(strings.Repeat(of+", ", t.Len()), ", ") + "]"
		}
		if strings.ContainsAny(of, " |") {
			of = "(" + of + ")"
		}
		if t.Elem().Kind() == reflect.Slice {
			of = "(" + of + " | null)"
		}
		return of + "[]"
	case reflect.Map:
		record := fmt.Sprintf("Record<%s, %s>", w.of(t.Key()), w.nullable(t.Elem()))
		if w.words(t.Key()) != "string" { // not every word has to be there
			record = "Partial<" + record + ">"
		}
		return record
	case reflect.Bool:
		return "boolean"
	case reflect.Interface:
		return "unknown"
	}
	return "number"
}

// nullable is of for where nil is written as null.
func (w *writer) nullable(t reflect.Type) string {
	s := w.of(t)
	switch t.Kind() {
	case reflect.Pointer:
		if t.Elem().Kind() == reflect.Struct { // which is there wherever it is not left out
			return s
		}
		fallthrough
	case reflect.Slice:
		if w.input && t.Kind() == reflect.Slice { // who asks for something, says what
			return s
		}
		if s != "unknown" && s != "null" {
			return s + " | null"
		}
	}
	return s
}

func (w *writer) note(t reflect.Type, write func(name string) string) string {
	name := t.Name()
	if other, ok := named[t]; ok {
		name = other
	}
	if have, ok := w.types[name]; ok {
		if have != t {
			w.wrong = append(w.wrong, fmt.Sprintf("%s and %s are both called %s", have, t, name))
		}
		return name
	}
	w.types[name] = t
	input, indent := w.input, w.indent
	w.input, w.indent = false, ""
	defer func() { w.input, w.indent = input, indent }()
	w.done[name] = w.comment(t, "", "") + write(name)
	return name
}

// words is the union of the constants of a type; any string where there are none.
func (w *writer) words(t reflect.Type) string {
	if t == reflect.TypeFor[scene.LinkKind]() { // each stands where its kind does
		var keys []string
		for _, k := range link.Kinds() {
			keys = append(keys, "'"+string(k.Key)+"'")
		}
		return strings.Join(keys, " | ")
	}
	d := w.docs[key(t)]
	if d == nil || len(d.values) == 0 {
		return "string"
	}
	return strings.Join(d.values, " | ")
}

// body writes the fields of a struct as encoding/json does.
func (w *writer) body(t reflect.Type) string {
	indent := w.indent
	var b strings.Builder
	b.WriteString("{\n")
	w.indent += "  "
	defer func() { w.indent = w.indent[2:] }()
	for _, f := range fields(t) {
		name, options, _ := strings.Cut(f.Tag.Get("json"), ",")
		if name == "" {
			w.wrong = append(w.wrong, fmt.Sprintf("%s.%s has no name in JSON", t, f.Name))
		}
		of, mark := w.nullable(f.Type), ""
		if strings.Contains(options, "omit") {
			of, mark = w.of(f.Type), "?"
		}
		if kind := f.Type.Kind(); w.input && (kind == reflect.Bool || kind == reflect.Pointer && f.Type.Elem().Kind() != reflect.Struct) {
			of, mark = w.nullable(f.Type), "?"
		}
		switch f.Tag.Get("ts") {
		case "list": // it is never nil
			of = w.of(f.Type)
		case "colour":
			of = "[number, number, number, number]"
		case "part":
			of = "Partial<" + of + ">"
		case "text": // whatever constants its type has
			of = "string"
		case "null": // nothing is something else than left out
			of = w.of(f.Type) + " | null"
		}
		fmt.Fprintf(&b, "%s%s  %s%s: %s\n", w.comment(f.in, f.Name, indent+"  "), indent, name, mark, of)
	}
	b.WriteString(indent + "}")
	return b.String()
}

// field is a field with the struct that it stands in.
type field struct {
	reflect.StructField
	in reflect.Type
}

// fields lists the fields of a struct, those of embedded ones in their place but where one further out has their name.
func fields(t reflect.Type) []field {
	var out []field
	var add func(t reflect.Type, outer map[string]bool)
	add = func(t reflect.Type, outer map[string]bool) {
		own := maps.Clone(outer)
		for i := range t.NumField() {
			if name, _, _ := strings.Cut(t.Field(i).Tag.Get("json"), ","); name != "" {
				own[name] = true
			}
		}
		for i := range t.NumField() {
			f := t.Field(i)
			name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
			of := f.Type
			if of.Kind() == reflect.Pointer {
				of = of.Elem()
			}
			switch {
			case f.Anonymous && name == "" && of.Kind() == reflect.Struct:
				add(of, own)
			case !f.IsExported() || name == "-" || outer[name]:
			default:
				out = append(out, field{f, t})
			}
		}
	}
	add(t, map[string]bool{})
	return out
}

// comment writes what stands above a type, or one of its fields.
func (w *writer) comment(t reflect.Type, field, indent string) string {
	text := w.text(t, field)
	if text == "" {
		return ""
	}
	return indent + "/** " + strings.ReplaceAll(text, "*/", "* /") + " */\n"
}

// text is the comment on a type, or on one of its fields, in one line.
func (w *writer) text(t reflect.Type, field string) string {
	d := w.docs[key(t)]
	if d == nil {
		return ""
	}
	text := d.text
	if field != "" {
		text = d.fields[field]
	}
	return strings.Join(strings.Fields(text), " ")
}

func key(t reflect.Type) string { return t.PkgPath() + "." + t.Name() }
