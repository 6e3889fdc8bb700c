package demo

import (
	"image"
	"image/color"
	"sync"

	"wunderkammer/core/format/media"
)

// The flags of a harbour that does not exist, as colours by place: x and y run from 0 to 1.
var flags = []func(x, y float64) color.NRGBA{
	func(x, _ float64) color.NRGBA { return pick(x < 0.5, brick, chalk) },
	func(x, y float64) color.NRGBA { return pick((x < 0.5) == (y < 0.5), sea, straw) },
	func(x, y float64) color.NRGBA {
		return pick((x-0.5)*(x-0.5)*2.25+(y-0.5)*(y-0.5) < 0.09, brick, sea)
	},
	func(x, y float64) color.NRGBA { return pick(int((x*1.5+y)*4)%2 == 0, straw, ink) },
	func(x, y float64) color.NRGBA {
		return pick(x > 0.36 && x < 0.64 && y > 0.25 && y < 0.75, straw, moss)
	},
	func(x, y float64) color.NRGBA { return pick(y < 0.34 || y > 0.66, chalk, brick) },
}

var (
	brick = color.NRGBA{0xb0, 0x34, 0x45, 0xff}
	chalk = color.NRGBA{0xf4, 0xea, 0xd6, 0xff}
	sea   = color.NRGBA{0x2c, 0x5f, 0x86, 0xff}
	straw = color.NRGBA{0xe2, 0xb1, 0x48, 0xff}
	ink   = color.NRGBA{0x2a, 0x20, 0x30, 0xff}
	moss  = color.NRGBA{0x4c, 0x7a, 0x55, 0xff}
)

func pick(first bool, a, b color.NRGBA) color.NRGBA {
	if first {
		return a
	}
	return b
}

// Pictures returns the pictures of the demo, drawn by code: the frames of the flag's flipbook.
var Pictures = sync.OnceValue(func() []media.File {
	const w, h = 96, 64
	var out []media.File
	for _, flag := range flags {
		m := image.NewNRGBA(image.Rect(0, 0, w, h))
		for y := range h {
			for x := range w {
				m.SetNRGBA(x, y, flag((float64(x)+0.5)/w, (float64(y)+0.5)/h))
			}
		}
		p, err := media.Encode(m)
		if err != nil {
			panic(err) // an image in memory can always be written
		}
		out = append(out, p)
	}
	return out
})
