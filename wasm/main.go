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
	"wunderkammer/core/session"
)

var (
	current *session.Session
	tracker engine.Tracker
	known   int       // texts that the page knows
	packed  []float32 // outlines of the last frame, reused
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

// answer is what every call returns: a result or an error in a sentence.
type answer struct {
	Result any    `json:"result,omitempty"`
	Error  string `json:"error,omitempty"`
}

func call(method string, argument []byte) (text string) {
	var a answer
	defer func() {
		if p := recover(); p != nil {
			a = answer{Error: fmt.Sprintf("Something in the core broke (%v). What was saved is safe; load the page anew.", p)}
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
	result, err := handler(argument)
	a.Result = result
	if err != nil {
		a.Error = err.Error()
	}
	return
}

// frame evaluates and returns { values: Float64Array, outlines: Float32Array }. The outlines are
// those that changed since the last call, one after the other: index of the item, left, bottom,
// right, top, number of verbs, number of coordinates, the verbs, the coordinates.
func frame(at float64) any {
	if current == nil {
		return nil
	}
	values := current.Evaluate(at)
	packed = packed[:0]
	tracker.Changed(current.Plan(), func(i int32, path outline.Path) {
		box := path.Box()
		packed = append(packed, float32(i), float32(box.Left), float32(box.Bottom), float32(box.Right), float32(box.Top),
			float32(len(path.Verbs)), float32(len(path.Points)))
		for _, v := range path.Verbs {
			packed = append(packed, float32(v))
		}
		for _, x := range path.Points {
			packed = append(packed, float32(x))
		}
	})
	out := js.Global().Get("Object").New()
	out.Set("values", copyOut("Float64Array", values))
	out.Set("outlines", copyOut("Float32Array", packed))
	return out
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
