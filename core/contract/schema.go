package contract

import (
	"encoding/json"
	"errors"
	"fmt"
	"reflect"
	"strings"
	"time"

	"wunderkammer/core/bridge"
	"wunderkammer/core/change"
	"wunderkammer/core/format/pack"
	"wunderkammer/core/scene"
)

// Schema returns the JSON Schema (2020-12) of project.json in a package. The descriptions are the comments in the sources of Go below root.
func Schema(root string) ([]byte, error) {
	docs, err := ReadDocs(root, "core")
	if err != nil {
		return nil, err
	}
	s := NewSchemas("#/$defs/", docs)
	document := s.Of(reflect.TypeFor[pack.Document]())
	properties := s.Done["Document"].(map[string]any)["properties"].(map[string]any)
	properties["format"] = map[string]any{"const": pack.FormatName}
	properties["version"] = map[string]any{"type": "integer", "minimum": 1, "maximum": pack.Version, "description": "What an older version wrote is brought up to date when it is opened."}
	out := map[string]any{
		"$schema": "https://json-schema.org/draft/2020-12/schema", "title": "A Wunderkammer project", "$comment": "Written by `make contract` from the types of Go: change those.",
		"$ref": document["$ref"], "$defs": s.Done,
	}
	if err := s.Err(); err != nil {
		return nil, err
	}
	data, err := json.MarshalIndent(out, "", " ")
	return append(data, '\n'), err
}

// Schemas writes types of Go as JSON Schemas, as they are in JSON.
type Schemas struct {
	// Done are those of named types, by their names.
	Done map[string]any
	at   string // where they are referred to
	w    *writer
}

// NewSchemas returns what writes schemas that refer to one another below a path.
func NewSchemas(at string, docs Docs) *Schemas {
	s := &Schemas{Done: map[string]any{}, at: at, w: &writer{docs: docs, done: map[string]string{}, types: map[string]reflect.Type{}}}
	s.Done["Value"] = map[string]any{
		"description": "A value of a property: a number, a text, or the numbers of a point or a colour; a colour is red, green, blue and opacity, 0 to 1. null: none.",
		"anyOf":       []any{typed("number"), typed("string"), typed("boolean"), typed("null"), map[string]any{"type": "array", "items": typed("number"), "minItems": 2, "maxItems": 4}},
	}
	return s
}

func typed(name string) map[string]any { return map[string]any{"type": name} }

func (s *Schemas) refer(name string) map[string]any { return map[string]any{"$ref": s.at + name} }

// Of returns the schema of a type where it is used; one that has a name is referred to.
func (s *Schemas) Of(t reflect.Type) map[string]any {
	switch t {
	case reflect.TypeFor[scene.Value]():
		return s.refer("Value")
	case reflect.TypeFor[scene.MeshShape]():
		return map[string]any{"type": "string", "description": "The vertices and faces of a mesh, packed."}
	case reflect.TypeFor[json.RawMessage]():
		return map[string]any{}
	case reflect.TypeFor[time.Time]():
		return map[string]any{"type": "string", "format": "date-time"}
	case reflect.TypeFor[bridge.None]():
		return typed("null")
	case reflect.TypeFor[change.Ops](), reflect.TypeFor[change.Exact]():
		return map[string]any{"type": "array", "items": s.operation()}
	}
	switch t.Kind() {
	case reflect.Pointer:
		return s.Of(t.Elem())
	case reflect.Struct:
		if t.Name() == "" {
			return s.object(t)
		}
		return s.named(t, func() map[string]any { return s.object(t) })
	case reflect.String:
		if words := s.words(t); len(words) > 0 {
			return s.named(t, func() map[string]any { return map[string]any{"enum": words} })
		}
		return typed("string")
	case reflect.Slice:
		if t.Elem().Kind() == reflect.Uint8 {
			return map[string]any{"type": "string", "contentEncoding": "base64"}
		}
		return map[string]any{"type": "array", "items": s.Of(t.Elem())}
	case reflect.Array:
		return map[string]any{"type": "array", "items": s.Of(t.Elem()), "minItems": t.Len(), "maxItems": t.Len()}
	case reflect.Map:
		return map[string]any{"type": "object", "additionalProperties": s.Of(t.Elem())}
	case reflect.Bool:
		return typed("boolean")
	case reflect.Interface:
		return map[string]any{}
	case reflect.Float32, reflect.Float64:
		return typed("number")
	}
	return typed("integer")
}

// Err is what is wrong with the types: two of one name.
func (s *Schemas) Err() error {
	if len(s.w.wrong) > 0 {
		return errors.New(strings.Join(s.w.wrong, "; "))
	}
	return nil
}

// words are the constants of a type of strings; none where it takes any.
func (s *Schemas) words(t reflect.Type) (out []any) {
	if t.PkgPath() == "" {
		return nil
	}
	union := s.w.words(t)
	if union == "string" {
		return nil
	}
	for _, word := range strings.Split(union, " | ") {
		out = append(out, strings.Trim(word, "'"))
	}
	return out
}

// named notes what a type is under its name, once, and refers to it.
func (s *Schemas) named(t reflect.Type, make func() map[string]any) map[string]any {
	name := t.Name()
	if other, ok := named[t]; ok {
		name = other
	}
	if of, known := s.w.types[name]; known && of != t {
		s.w.wrong = append(s.w.wrong, fmt.Sprintf("%s is the name of %s and of %s", name, of, t))
	}
	s.w.types[name] = t
	if _, known := s.Done[name]; !known {
		s.Done[name] = nil // which it may refer to itself
		of := make()
		if text := s.w.text(t, ""); text != "" {
			of["description"] = text
		}
		s.Done[name] = of
	}
	return s.refer(name)
}

// object is the schema of a struct: what is never left out, and stands for nothing usual where it isn't there, is required.
func (s *Schemas) object(t reflect.Type) map[string]any {
	properties, required := map[string]any{}, []string{}
	for _, f := range fields(t) {
		name, options, _ := strings.Cut(f.Tag.Get("json"), ",")
		of := s.Of(f.Type)
		left := strings.Contains(options, "omit")
		kind, tag := f.Type.Kind(), f.Tag.Get("ts")
		switch {
		case tag == "colour":
			of = map[string]any{"type": "array", "items": typed("number"), "minItems": 4, "maxItems": 4}
		case tag == "part": // of which anything may be left out
			of = s.object(f.Type)
			delete(of, "required")
		case tag == "text":
			of = typed("string")
		case tag == "null", !left && tag != "list" && (kind == reflect.Slice || kind == reflect.Map || kind == reflect.Pointer):
			of = map[string]any{"anyOf": []any{of, typed("null")}}
		}
		if text := s.w.text(f.in, f.Name); text != "" {
			of["description"] = text
		}
		properties[name] = of
		if !left && needed(f.Type) {
			required = append(required, name)
		}
	}
	out := map[string]any{"type": "object", "properties": properties, "additionalProperties": false}
	if len(required) > 0 {
		out["required"] = required
	}
	return out
}

// needed reports whether something of a type has to be said: values, numbers and switches are 0 where they are not, or as nothing was set.
func needed(t reflect.Type) bool {
	switch t.Kind() {
	case reflect.Struct, reflect.Float64, reflect.Bool, reflect.Interface:
		return false
	}
	return true
}

// operation is the schema of an edit of a project: one for each by its name.
func (s *Schemas) operation() map[string]any {
	if _, known := s.Done["Operation"]; !known {
		s.Done["Operation"] = nil
		var all []any
		for name, op := range change.All() {
			of := s.object(reflect.TypeOf(op).Elem())
			of["properties"].(map[string]any)["op"] = map[string]any{"const": name}
			of["required"] = []string{"op"} // what is left out is empty
			if text := s.w.text(reflect.TypeOf(op).Elem(), ""); text != "" {
				of["description"] = text
			}
			all = append(all, of)
		}
		s.Done["Operation"] = map[string]any{"description": "An edit of a project.", "oneOf": all}
	}
	return s.refer("Operation")
}
