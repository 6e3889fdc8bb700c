package gesture

import (
	"wunderkammer/core/change"
	"wunderkammer/core/scene"
)

// Allowed refuses operations that set what a composition hands off otherwise than it may be set: pins where there may be none, texts that
// are too long. Numbers are held within their limits where they are worked out.
func (c *Context) Allowed(ops change.Ops) error {
	for _, op := range ops {
		var err error
		switch o := op.(type) {
		case *change.OwnSet:
			err = c.allowed(o.Of, false, o.Value)
		case *change.PinsPut:
			for _, pin := range o.Pins {
				if err == nil {
					err = c.allowed(o.Of, true, pin.Value)
				}
			}
		}
		if err != nil {
			return err
		}
	}
	return nil
}

func (c *Context) allowed(of change.Of, pinned bool, value scene.Value) error {
	item := c.Composition.Item(of.Item)
	if item == nil || of.Composition != c.Composition.ID {
		return nil
	}
	if h, ok := item.HandedAs(of.Property); ok {
		return h.MayHold(pinned, value)
	}
	return nil
}
