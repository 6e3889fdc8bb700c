package bridge

import (
	"encoding/json"
	"fmt"
	"reflect"
	"slices"
	"strings"
	"testing"

	"wunderkammer/core/curve"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
)

// nilLists names the lists in an answer that are nil, though its type says that there is always one: they would reach the page as null.
func nilLists(v reflect.Value, at string) (out []string) {
	switch v.Kind() {
	case reflect.Pointer, reflect.Interface:
		if !v.IsNil() {
			return nilLists(v.Elem(), at)
		}
	case reflect.Slice, reflect.Array:
		for k := range v.Len() {
			out = append(out, nilLists(v.Index(k), fmt.Sprintf("%s[%d]", at, k))...)
		}
	case reflect.Map:
		for _, key := range v.MapKeys() {
			out = append(out, nilLists(v.MapIndex(key), fmt.Sprintf("%s[%v]", at, key))...)
		}
	case reflect.Struct:
		for k := range v.NumField() {
			field := v.Type().Field(k)
			if !field.IsExported() {
				continue
			}
			if field.Tag.Get("ts") == "list" && field.Type.Kind() == reflect.Slice && v.Field(k).IsNil() {
				out = append(out, at+"."+field.Name)
			}
			out = append(out, nilLists(v.Field(k), at+"."+field.Name)...)
		}
	}
	return out
}

// about fills an argument with an item and a property, wherever it names one.
func about(v reflect.Value, item scene.ID, property string) {
	switch {
	case v.Type() == reflect.TypeFor[scene.ID]():
		v.SetString(string(item))
	case v.Kind() == reflect.Slice:
		if kind := v.Type().Elem().Kind(); kind == reflect.String || kind == reflect.Struct {
			v.Set(reflect.MakeSlice(v.Type(), 1, 1))
			about(v.Index(0), item, property)
		}
	case v.Kind() == reflect.Struct:
		for k := range v.NumField() {
			if field := v.Field(k); !field.CanSet() {
				continue
			} else if v.Type().Field(k).Name == "Property" {
				field.SetString(property)
			} else {
				about(field, item, property)
			}
		}
	}
}

// driven is a project in which a formula drives a position that has pins.
func driven(t *testing.T) *Bridge {
	t.Helper()
	p := scene.NewProject("p", "Driven")
	rig := &scene.Item{ID: "rig", Name: "Rig", Kind: scene.Null, Controls: []*scene.Control{{ID: "c", Name: "Way", Kind: scene.PointWidget, Depth: true, Default: scene.Pt(3, 5, 7)}}}
	two := []scene.Pin{{Frame: 3, Value: scene.Pt(1, 2, 0), Easing: curve.Smooth}, {Frame: 41, Value: scene.Pt(70, 11, 0), Easing: curve.Smooth}}
	rig.States = map[string]*scene.State{
		"position": {Pins: two, Links: []*scene.Link{{ID: "l", Kind: scene.Formula, Gain: 1, Formula: "[time, 7]"}}},
		"scale":    {Pins: slices.Clone(two)},
	}
	bare := &scene.Item{ID: "bare", Name: "Bare", Kind: scene.Rectangle}
	p.Compositions[0].Items = []*scene.Item{rig, bare}
	if err := p.Check(); err != nil {
		t.Fatal(err)
	}
	s, _ := session.Open(p, 1, nil, newID)
	return &Bridge{session: s}
}

func TestNoListOfAnAnswerIsNull(t *testing.T) {
	called := 0
	for name, m := range methods {
		for _, item := range []scene.ID{"rig", "bare", "gone"} {
			for _, property := range []string{"position", "scale", "c", "opacity", "gone", ""} {
				argument := reflect.New(m.argument).Elem()
				about(argument, item, property)
				text, err := json.Marshal(argument.Interface())
				if err != nil {
					t.Fatal(err)
				}
				answer, err := m.call(driven(t), text)
				if err != nil {
					continue
				}
				called++
				for _, list := range nilLists(reflect.ValueOf(answer), "") {
					t.Errorf("%s of %s: %s: its %s is null in the page, which takes it for a list", name, item, property, strings.TrimPrefix(list, "."))
				}
			}
		}
	}
	if called < 100 {
		t.Errorf("only %d calls were answered", called)
	}
}
