package graph

import (
	"reflect"

	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/scene"
)

// Renew returns a copy of a project in which all that is in its compositions has new ids, and is referred to by them, by its recipes too,
// so that it can be put into another project, or beside itself.
func Renew(p *scene.Project, fresh func() scene.ID) *scene.Project {
	out := p.Clone()
	r := renewer{}
	for _, c := range out.Compositions {
		for _, id := range c.IDs() {
			r[id] = fresh()
		}
	}
	for _, c := range out.Compositions {
		r.walk(reflect.ValueOf(c).Elem())
	}
	for _, kept := range out.Recipes {
		if len(kept.Shown()) > 0 {
			r.walk(reflect.ValueOf(kept).Elem())
		}
	}
	return out.Clone() // which knows nothing of the ids before
}

// renewer holds new ids by those before.
type renewer map[scene.ID]scene.ID

func (r renewer) to(id scene.ID) (scene.ID, bool) {
	to, ok := r[id]
	return to, ok
}

// key returns the key of a property, which may have the id of a control, of one that is handed off, or of a link in it.
func (r renewer) key(key string) string {
	if to, ok := r[scene.ID(key)]; ok {
		return string(to)
	}
	if of, weight := scene.WeightOf(key); weight {
		if to, ok := r[of]; ok {
			return scene.WeightKey(to)
		}
	}
	return key
}

var (
	idType   = reflect.TypeFor[scene.ID]()
	slipType = reflect.TypeFor[scene.Slip]()
)

// walk gives all that is below a value the new ids: whatever is an id, the keys of properties, and what formulas name.
func (r renewer) walk(v reflect.Value) {
	switch v.Kind() {
	case reflect.Pointer:
		if !v.IsNil() {
			r.walk(v.Elem())
		}
	case reflect.Slice, reflect.Array:
		for k := range v.Len() {
			r.walk(v.Index(k))
		}
	case reflect.Map:
		r.remap(v)
	case reflect.Struct:
		for k := range v.NumField() {
			switch field := v.Type().Field(k); {
			case !field.IsExported():
			case field.Name == "Property" && field.Type.Kind() == reflect.String:
				v.Field(k).SetString(r.key(v.Field(k).String()))
			case field.Name == "Formula" && field.Type.Kind() == reflect.String:
				v.Field(k).SetString(syntax.Renamed(v.Field(k).String(), r.to))
			default:
				r.walk(v.Field(k))
			}
		}
		if v.Type() == slipType {
			s := v.Addr().Interface().(*scene.Slip)
			if s.Kind != scene.NoteSlip {
				s.Text = syntax.Renamed(s.Text, r.to)
			}
			for in, text := range s.Fields {
				s.Fields[in] = syntax.Renamed(text, r.to)
			}
		}
	case reflect.String:
		if v.Type() == idType {
			if to, ok := r[scene.ID(v.String())]; ok {
				v.SetString(string(to))
			}
		}
	}
}

// remap gives a map its new keys: ids, or those of properties.
func (r renewer) remap(v reflect.Value) {
	if v.IsNil() {
		return
	}
	out := reflect.MakeMapWithSize(v.Type(), v.Len())
	for _, was := range v.MapKeys() {
		of := v.MapIndex(was)
		r.walk(of) // what is behind a pointer
		key := was
		switch _, states := of.Interface().(*scene.State); {
		case was.Type() == idType:
			if to, ok := r[scene.ID(was.String())]; ok {
				key = reflect.ValueOf(to)
			}
		case states:
			key = reflect.ValueOf(r.key(was.String()))
		}
		out.SetMapIndex(key, of)
	}
	v.Set(out)
}
