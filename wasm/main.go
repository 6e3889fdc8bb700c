//go:build js && wasm

// Command wasm is the thin bridge of the core to a Web Worker. It puts one function on the global
// object, wunderkammerCore(method, argument), that takes and returns JSON, and one, wunderkammerFrame, that hands the
// values of a frame over in bulk.
package main

import (
	"encoding/json"
	"fmt"
	"syscall/js"
	"unsafe"

	"wunderkammer/core/engine"
	"wunderkammer/core/outline"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
)

var (
	current *session.Session
	tracker engine.Tracker
	known   int       // texts that the page knows
	packed  []float32 // shapes of the last frame, reused
	flying  []float32 // particles, likewise
)

func main() {
	js.Global().Set("wunderkammerCore", js.FuncOf(func(_ js.Value, args []js.Value) any {
		return call(args[0].String(), []byte(args[1].String()))
	}))
	js.Global().Set("wunderkammerFrame", js.FuncOf(func(_ js.Value, args []js.Value) any {
		return frame(args[0].Float())
	}))
	select {}
}

// answer is what every call returns: a result or an error in a sentence. Where the core broke on the way, it is of no
// use any more and has to be started anew.
type answer struct {
	Result any    `json:"result,omitempty"`
	Error  string `json:"error,omitempty"`
	Broken string `json:"broken,omitempty"`
}

func call(method string, argument []byte) (text string) {
	var a answer
	defer func() {
		if p := recover(); p != nil {
			a = answer{Broken: fmt.Sprintf("%s: %v", method, p)}
		}
		out, err := json.Marshal(a)
		if err != nil {
			out, _ = json.Marshal(answer{Error: "an answer could not be written: " + err.Error()})
		}
		text = string(out)
	}()
	handler, ok := methods[method]
	if !ok {
		a.Error = "the core has no method " + method
		return
	}
	if err := scene.CheckJSON(argument); err != nil {
		a.Error = err.Error()
		return
	}
	result, err := handler(argument)
	a.Result = result
	if err != nil {
		a.Error = err.Error()
	}
	return
}

// What a record of packed shapes is. Each begins with the index of its item and one of these.
const (
	recordSurface = iota // of a flat item: left, bottom, right, top, verbs, coordinates, the verbs, the coordinates
	recordLine           // along a flat item, as a surface
	recordOutline        // the line is the edge of the surface; nothing follows
	recordMesh           // corners, indices, then for all corners x, y, z, then normals, then u, v, then the indices
)

// frame evaluates and returns what evaluate does, or { broken } where the core broke on the way.
func frame(at float64) (out any) {
	defer func() {
		if p := recover(); p != nil {
			broken := js.Global().Get("Object").New()
			broken.Set("broken", fmt.Sprintf("frame %v: %v", at, p))
			out = broken
		}
	}()
	return evaluate(at)
}

// evaluate evaluates and returns { values: Float64Array, shapes: Float32Array, particles: Float32Array },
// and texts, those that are new, where there are any.
// The shapes are those that changed since the last call, one after the other. The particles are,
// for each emitter that is shown, its index and their number, then for each x, y, z, size, its
// speed in x and y, and red, green, blue, alpha.
func evaluate(at float64) any {
	if current == nil {
		return nil
	}
	values := current.Evaluate(at)
	plan := current.Plan()
	packed = packed[:0]
	tracker.Changed(plan, func(i int32, what engine.Changes) { pack(plan, i, what) })
	flying = flying[:0]
	for i, item := range plan.Layout.Items {
		if item.Kind == scene.Emitter && !plan.Layout.Hidden[i] {
			fly(plan, int32(i))
		}
	}
	out := js.Global().Get("Object").New()
	out.Set("values", copyOut("Float64Array", values))
	out.Set("shapes", copyOut("Float32Array", packed))
	out.Set("particles", copyOut("Float32Array", flying))
	if texts := plan.Texts(); len(texts) > known { // formulas wrote new ones
		more := js.Global().Get("Array").New()
		for _, text := range texts[known:] {
			more.Call("push", text)
		}
		out.Set("texts", more)
		known = len(texts)
	}
	return out
}

func pack(plan *engine.Plan, i int32, what engine.Changes) {
	if plan.Layout.Items[i].Kind.Class() == scene.Solid {
		m := plan.Mesh(i)
		packed = append(packed, float32(i), recordMesh, float32(len(m.Places)/3), float32(len(m.Index)))
		packed = append(packed, m.Places...)
		packed = append(packed, m.Normals...)
		packed = append(packed, m.UVs...)
		for _, k := range m.Index {
			packed = append(packed, float32(k))
		}
		return
	}
	if what.Surface {
		packPath(i, recordSurface, plan.Shape(i))
	}
	if line, whole := plan.Stroke(i); whole {
		packed = append(packed, float32(i), recordOutline)
	} else {
		packPath(i, recordLine, line)
	}
}

func packPath(i int32, record float32, path outline.Path) {
	box := path.Box()
	packed = append(packed, float32(i), record, float32(box.Left), float32(box.Bottom), float32(box.Right), float32(box.Top),
		float32(len(path.Verbs)), float32(len(path.Points)))
	for _, v := range path.Verbs {
		packed = append(packed, float32(v))
	}
	for _, x := range path.Points {
		packed = append(packed, float32(x))
	}
}

func fly(plan *engine.Plan, i int32) {
	head := len(flying)
	flying = append(flying, float32(i), 0)
	plan.Particles(i, func(p *engine.Particle) {
		flying = append(flying, float32(p.Place[0]), float32(p.Place[1]), float32(p.Place[2]), float32(p.Size), float32(p.Moving[0]), float32(p.Moving[1]),
			float32(p.Colour[0]), float32(p.Colour[1]), float32(p.Colour[2]), float32(p.Colour[3]))
		flying[head+1]++
	})
}

// copyOut makes a typed array of JavaScript's from a slice, in one bulk copy.
func copyOut[T float32 | float64](kind string, data []T) js.Value {
	array := js.Global().Get(kind).New(len(data))
	if len(data) > 0 {
		bytes := unsafe.Slice((*byte)(unsafe.Pointer(&data[0])), len(data)*int(unsafe.Sizeof(data[0])))
		js.CopyBytesToJS(js.Global().Get("Uint8Array").New(array.Get("buffer")), bytes)
	}
	return array
}
