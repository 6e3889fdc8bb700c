package reel

import (
	"encoding/base64"
	"fmt"
	"regexp"

	"wunderkammer/core/scene"
)

// leads is a place in a file that leads to a picture.
var leads = regexp.MustCompile(`"asset:([0-9a-f]{64})"`)

// Embedded puts pictures in the places that lead to them, so that a file needs nothing beside it; what there is not stays away.
func Embedded(file []byte, find func(scene.AssetID) (data []byte, kind string, ok bool)) []byte {
	return leads.ReplaceAllFunc(file, func(place []byte) []byte {
		data, kind, ok := find(scene.AssetID(leads.FindSubmatch(place)[1]))
		if !ok {
			return []byte(`""`)
		}
		return fmt.Appendf(nil, `"data:%s;base64,%s"`, kind, base64.StdEncoding.EncodeToString(data))
	})
}
