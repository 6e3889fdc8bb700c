package gltf

import (
	"encoding/binary"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"strings"

	"wunderkammer/core/format/brought"
	"wunderkammer/core/scene"
)

// document is what a file says, as far as it is read.
type document struct {
	Asset struct {
		Version string `json:"version"`
	} `json:"asset"`
	ExtensionsRequired []string     `json:"extensionsRequired"`
	Scene              int          `json:"scene"`
	Scenes             []sceneNode  `json:"scenes"`
	Nodes              []fileNode   `json:"nodes"`
	Meshes             []fileMesh   `json:"meshes"`
	Materials          []material   `json:"materials"`
	Textures           []texture    `json:"textures"`
	Images             []image      `json:"images"`
	Accessors          []accessor   `json:"accessors"`
	BufferViews        []bufferView `json:"bufferViews"`
	Buffers            []struct {
		URI        string `json:"uri"`
		ByteLength int    `json:"byteLength"`
	} `json:"buffers"`
	Animations []animation `json:"animations"`

	bin   []byte            // of a binary file
	parts map[string][]byte // the files beside it, by their names
	data  [][]byte          // of the buffers
	read  int               // how many numbers were read, or made out of nothing
}

type sceneNode struct {
	Nodes []int `json:"nodes"`
}

type fileNode struct {
	Name        string         `json:"name"`
	Children    []int          `json:"children"`
	Mesh        *int           `json:"mesh"`
	Camera      *int           `json:"camera"`
	Skin        *int           `json:"skin"`
	Matrix      []float64      `json:"matrix"`
	Translation []float64      `json:"translation"`
	Rotation    []float64      `json:"rotation"`
	Scale       []float64      `json:"scale"`
	Extensions  map[string]any `json:"extensions"`
}

type fileMesh struct {
	Name       string      `json:"name"`
	Primitives []primitive `json:"primitives"`
}

type primitive struct {
	Attributes map[string]int    `json:"attributes"`
	Indices    *int              `json:"indices"`
	Material   *int              `json:"material"`
	Mode       *int              `json:"mode"`
	Targets    []json.RawMessage `json:"targets"`
	Extensions map[string]any    `json:"extensions"`
}

// pictured is where a material names a texture.
type pictured struct {
	Index      int            `json:"index"`
	TexCoord   int            `json:"texCoord"`
	Extensions map[string]any `json:"extensions"`
}

type material struct {
	Name string `json:"name"`
	PBR  *struct {
		BaseColorFactor          []float64 `json:"baseColorFactor"`
		BaseColorTexture         *pictured `json:"baseColorTexture"`
		MetallicFactor           *float64  `json:"metallicFactor"`
		RoughnessFactor          *float64  `json:"roughnessFactor"`
		MetallicRoughnessTexture *pictured `json:"metallicRoughnessTexture"`
	} `json:"pbrMetallicRoughness"`
	NormalTexture    *pictured      `json:"normalTexture"`
	OcclusionTexture *pictured      `json:"occlusionTexture"`
	EmissiveTexture  *pictured      `json:"emissiveTexture"`
	EmissiveFactor   []float64      `json:"emissiveFactor"`
	AlphaMode        string         `json:"alphaMode"`
	Extensions       map[string]any `json:"extensions"`
}

type texture struct {
	Source *int `json:"source"`
}

type image struct {
	Name       string `json:"name"`
	URI        string `json:"uri"`
	MimeType   string `json:"mimeType"`
	BufferView *int   `json:"bufferView"`
}

type bufferView struct {
	Buffer     int `json:"buffer"`
	ByteOffset int `json:"byteOffset"`
	ByteLength int `json:"byteLength"`
	ByteStride int `json:"byteStride"`
}

type accessor struct {
	BufferView    *int   `json:"bufferView"`
	ByteOffset    int    `json:"byteOffset"`
	ComponentType int    `json:"componentType"`
	Normalized    bool   `json:"normalized"`
	Count         int    `json:"count"`
	Type          string `json:"type"`
	Sparse        *struct {
		Count   int `json:"count"`
		Indices struct {
			BufferView    int `json:"bufferView"`
			ByteOffset    int `json:"byteOffset"`
			ComponentType int `json:"componentType"`
		} `json:"indices"`
		Values struct {
			BufferView int `json:"bufferView"`
			ByteOffset int `json:"byteOffset"`
		} `json:"values"`
	} `json:"sparse"`
}

// maxNumbers bounds the numbers that are read of one file.
const maxNumbers = 16 << 20

// understood are the extensions that a file can't be read without.
var understood = map[string]bool{"KHR_materials_unlit": true, "KHR_mesh_quantization": true, "KHR_lights_punctual": true}

// open reads what a file says; parts are the files beside it.
func open(file []byte, parts map[string][]byte) (*document, error) {
	d := &document{parts: parts}
	text := file
	if len(file) >= 12 && binary.LittleEndian.Uint32(file) == magic {
		if v := binary.LittleEndian.Uint32(file[4:]); v != 2 {
			return nil, fmt.Errorf("it is glTF %d; only glTF 2.0 can be read. Export it as glTF 2.0", v)
		}
		text = nil
		for at := 12; at+8 <= len(file); {
			length, kind := int(binary.LittleEndian.Uint32(file[at:])), binary.LittleEndian.Uint32(file[at+4:])
			at += 8
			if length > len(file)-at {
				return nil, errors.New("the file ends too early; copy or export it again")
			}
			chunk := file[at : at+length]
			switch {
			case kind == jsonChunk && text == nil:
				text = chunk
			case kind == binChunk && d.bin == nil:
				d.bin = chunk
			}
			at += length
		}
	}
	if err := json.Unmarshal(text, d); err != nil {
		return nil, errors.New("it is neither glTF nor GLB, or damaged")
	}
	if !strings.HasPrefix(d.Asset.Version, "2.") {
		return nil, errors.New("it is not glTF 2.0. Export it as glTF 2.0 (.glb or .gltf)")
	}
	for _, needed := range d.ExtensionsRequired {
		if !understood[needed] {
			return nil, fmt.Errorf("it needs %q, which can’t be read. Export it without compression and extensions", scene.Clip(needed))
		}
	}
	return d, nil
}

// fill finds the data of the buffers.
func (d *document) fill() error {
	for k, b := range d.Buffers {
		var data []byte
		switch {
		case b.URI == "" && k == 0:
			data = d.bin
		default:
			var err error
			if data, err = brought.At(b.URI, d.parts); err != nil {
				return err
			}
		}
		if b.ByteLength < 0 || b.ByteLength > len(data) {
			return brought.ErrDamaged
		}
		d.data = append(d.data, data[:b.ByteLength])
	}
	return nil
}

// view returns the bytes of a buffer view from an offset on.
func (d *document) view(n, offset int) ([]byte, bufferView, error) {
	if n < 0 || n >= len(d.BufferViews) {
		return nil, bufferView{}, brought.ErrDamaged
	}
	v := d.BufferViews[n]
	if v.Buffer < 0 || v.Buffer >= len(d.data) {
		return nil, v, brought.ErrDamaged
	}
	data := d.data[v.Buffer]
	if v.ByteOffset < 0 || v.ByteLength < 0 || v.ByteOffset > len(data) || v.ByteLength > len(data)-v.ByteOffset || offset < 0 || offset > v.ByteLength {
		return nil, v, brought.ErrDamaged
	}
	return data[v.ByteOffset+offset : v.ByteOffset+v.ByteLength], v, nil
}

// component is how a type of number is stored.
type component struct {
	size int
	of   func(b []byte) float64
	top  float64 // what stands for 1 where numbers are normalized
}

var components = map[int]component{
	5120:     {1, func(b []byte) float64 { return float64(int8(b[0])) }, 127},
	5121:     {1, func(b []byte) float64 { return float64(b[0]) }, 255},
	5122:     {2, func(b []byte) float64 { return float64(int16(binary.LittleEndian.Uint16(b))) }, 32767},
	5123:     {2, func(b []byte) float64 { return float64(binary.LittleEndian.Uint16(b)) }, 65535},
	uint32s:  {4, func(b []byte) float64 { return float64(binary.LittleEndian.Uint32(b)) }, math.MaxUint32},
	float32s: {4, func(b []byte) float64 { return float64(math.Float32frombits(binary.LittleEndian.Uint32(b))) }, 1},
}

var widths = map[string]int{"SCALAR": 1, "VEC2": 2, "VEC3": 3, "VEC4": 4}

// numbers reads an accessor, which has to be of one of the types; width is how many numbers each of its elements has.
func (d *document) numbers(n int, kinds ...string) (out []float64, width int, err error) {
	if n < 0 || n >= len(d.Accessors) {
		return nil, 0, brought.ErrDamaged
	}
	a := &d.Accessors[n]
	c, known := components[a.ComponentType]
	width = widths[a.Type]
	fits := false
	for _, kind := range kinds {
		fits = fits || kind == a.Type
	}
	if !known || !fits || a.Count < 0 {
		return nil, 0, brought.ErrDamaged
	}
	if a.Count > (maxNumbers-d.read)/width {
		return nil, 0, errors.New("it holds more numbers than can be read. Export fewer or simpler meshes at a time")
	}
	d.read += a.Count * width
	scale := func(x float64) float64 {
		if a.Normalized {
			return math.Max(x/c.top, -1)
		}
		return x
	}
	if a.BufferView != nil {
		data, v, err := d.view(*a.BufferView, a.ByteOffset)
		if err != nil {
			return nil, 0, err
		}
		stride := c.size * width
		if v.ByteStride > 0 {
			stride = v.ByteStride
		}
		if a.Count > 0 && (stride < c.size*width || (a.Count-1) > (len(data)-c.size*width)/stride || len(data) < c.size*width) {
			return nil, 0, brought.ErrDamaged
		}
		out = make([]float64, 0, a.Count*width)
		for k := range a.Count {
			for w := range width {
				out = append(out, scale(c.of(data[k*stride+w*c.size:])))
			}
		}
	} else {
		out = make([]float64, a.Count*width)
	}
	if s := a.Sparse; s != nil {
		where, known := components[s.Indices.ComponentType]
		at, _, err := d.view(s.Indices.BufferView, s.Indices.ByteOffset)
		if err != nil || !known {
			return nil, 0, brought.ErrDamaged
		}
		values, _, err := d.view(s.Values.BufferView, s.Values.ByteOffset)
		if err != nil || s.Count < 0 || s.Count > len(at)/where.size || s.Count > len(values)/(c.size*width) {
			return nil, 0, brought.ErrDamaged
		}
		for k := range s.Count {
			to := int(where.of(at[k*where.size:]))
			if to < 0 || to >= a.Count {
				return nil, 0, brought.ErrDamaged
			}
			for w := range width {
				out[to*width+w] = scale(c.of(values[(k*width+w)*c.size:]))
			}
		}
	}
	return out, width, nil
}
