package bridge

import (
	"encoding/json"
	"strings"
	"testing"
)

func TestARehearsalIsWorkedOutPieceByPiece(t *testing.T) {
	b := opened(t)
	ask := func(argument string) (out Rehearsed) {
		t.Helper()
		var a struct {
			Result *Rehearsed
			Error  string
		}
		text := b.Call("rehearse", []byte(argument))
		if err := json.Unmarshal([]byte(text), &a); err != nil || a.Result == nil {
			t.Fatalf("%s: %s", argument, text)
		}
		return *a.Result
	}
	before := b.Call("survey", []byte("null"))
	first := ask(`{"begin":{"frame":10},"moments":5}`)
	if first.Over || first.Done != 5 || first.Of < 40 {
		t.Fatalf("after five moments: %+v", first)
	}
	pieces := 1
	for last := first; !last.Over; pieces++ {
		if pieces > 100 {
			t.Fatal("it never ends")
		}
		if last = ask(`{"begin":null,"moments":20}`); !last.Over && last.Done <= first.Done {
			t.Fatalf("it does not go on: %+v", last)
		}
		b.Evaluate(float64(pieces)) // the page plays meanwhile
	}
	if again := ask(`{"begin":null,"moments":1}`); !again.Over || len(again.Found) > 0 {
		t.Errorf("behind its end: %+v", again)
	}
	ask(`{"begin":{"frame":0},"moments":3}`) // given up for another one
	if fresh := ask(`{"begin":{"frame":0},"moments":1}`); fresh.Done != 1 {
		t.Errorf("begun anew: %+v", fresh)
	}
	if after := b.Call("survey", []byte("null")); after != before {
		t.Error("the document was touched")
	}
	picture := b.Call("moment", []byte(`{"frame":0,"settings":[{"ref":{"item":"rig","property":"amount"},"value":40},{"ref":{"item":"gone","property":"x"},"value":1}]}`))
	if plain := b.Call("moment", []byte(`{"frame":0,"settings":[]}`)); !strings.Contains(picture, "svg xmlns") || picture == plain {
		t.Errorf("a picture of a moment: %.200s", picture)
	}
}
