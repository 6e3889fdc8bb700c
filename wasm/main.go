//go:build js && wasm

// Command wasm is the door of the core to a Web Worker. It puts one function on the global object,
// wunderkammerCore(method, argument), that takes and returns JSON; wunderkammerOpen(document, unsent), that takes a
// project as the server sent it, as a Uint8Array; wunderkammerHear(channels, rate), that takes the samples of a sound as a list of
// Float32Array; and two that hand values over in bulk:
// wunderkammerFrame(frame), what is another than at the frame before, and wunderkammerRead(frame), all of it, for
// scripts.
package main

import (
	"syscall/js"
	"unsafe"

	"wunderkammer/core/bridge"
)

func main() {
	var b bridge.Bridge
	js.Global().Set("wunderkammerCore", js.FuncOf(func(_ js.Value, args []js.Value) any {
		return b.Call(args[0].String(), []byte(args[1].String()))
	}))
	js.Global().Set("wunderkammerOpen", js.FuncOf(func(_ js.Value, args []js.Value) any {
		document := make([]byte, args[0].Length())
		js.CopyBytesToGo(document, args[0])
		return b.Open(document, []byte(args[1].String()))
	}))
	js.Global().Set("wunderkammerFrame", js.FuncOf(func(_ js.Value, args []js.Value) any {
		return handOver(b.Evaluate(args[0].Float()))
	}))
	js.Global().Set("wunderkammerRead", js.FuncOf(func(_ js.Value, args []js.Value) any {
		return handOver(b.Read(args[0].Float()))
	}))
	js.Global().Set("wunderkammerHear", js.FuncOf(func(_ js.Value, args []js.Value) any {
		channels := make([][]float32, args[0].Length())
		for k := range channels {
			channels[k] = copyIn(args[0].Index(k))
		}
		return bridge.Hear(channels, args[1].Float())
	}))
	select {}
}

// handOver returns { values: Float64Array, shapes: Float32Array, particles: Float32Array, copies: Float32Array }. The values are all of
// them, or, where slots: Uint32Array is there, too, those of these slots. Texts are those that are new, where there are
// any. Where the core broke, it is { broken }; where no project is open, null.
func handOver(f *bridge.Frame, broken string) any {
	if f == nil && broken == "" {
		return nil
	}
	out := js.Global().Get("Object").New()
	if broken != "" {
		out.Set("broken", broken)
		return out
	}
	if f.Whole != nil {
		out.Set("values", copyOut("Float64Array", f.Whole))
	} else {
		out.Set("slots", copyOut("Uint32Array", f.Slots))
		out.Set("values", copyOut("Float64Array", f.Values))
	}
	out.Set("shapes", copyOut("Float32Array", f.Shapes))
	out.Set("particles", copyOut("Float32Array", f.Particles))
	out.Set("copies", copyOut("Float32Array", f.Copies))
	if len(f.Texts) > 0 {
		more := js.Global().Get("Array").New()
		for _, text := range f.Texts {
			more.Call("push", text)
		}
		out.Set("texts", more)
	}
	return out
}

// copyIn makes a slice of a Float32Array, in one bulk copy.
func copyIn(array js.Value) []float32 {
	out := make([]float32, array.Length())
	if len(out) > 0 {
		bytes := unsafe.Slice((*byte)(unsafe.Pointer(&out[0])), 4*len(out))
		js.CopyBytesToGo(bytes, js.Global().Get("Uint8Array").New(array.Get("buffer"), array.Get("byteOffset"), array.Get("byteLength")))
	}
	return out
}

// copyOut makes a typed array of JavaScript's from a slice, in one bulk copy.
func copyOut[T uint32 | float32 | float64](kind string, data []T) js.Value {
	array := js.Global().Get(kind).New(len(data))
	if len(data) > 0 {
		bytes := unsafe.Slice((*byte)(unsafe.Pointer(&data[0])), len(data)*int(unsafe.Sizeof(data[0])))
		js.CopyBytesToJS(js.Global().Get("Uint8Array").New(array.Get("buffer")), bytes)
	}
	return array
}
