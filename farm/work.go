package farm

import (
	"context"
	"crypto/rand"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"time"

	"github.com/nats-io/nats.go/jetstream"

	"wunderkammer/core/format"
)

// Drawer makes a part of an export of a packed project, which is called by its content, and returns the file.
type Drawer interface {
	Draw(ctx context.Context, project string, packed func() ([]byte, error), a format.Asked, tell func(done, of int)) (file string, err error)
}

// Work makes parts until the context ends. What it is at when that happens goes to another.
func (q *Queue) Work(ctx context.Context, d Drawer, say func(string)) error {
	c, err := q.js.CreateOrUpdateConsumer(ctx, stream, jetstream.ConsumerConfig{
		Durable: consumer, AckPolicy: jetstream.AckExplicitPolicy, AckWait: silence, MaxAckPending: -1,
	})
	if err != nil {
		return fmt.Errorf("the queue gives no work: %w", err)
	}
	host, _ := os.Hostname()
	worker := host + " " + rand.Text()[:6]
	for ctx.Err() == nil {
		batch, err := c.Fetch(1, jetstream.FetchMaxWait(beat))
		if err != nil {
			if ctx.Err() == nil { // the queue is away; it is waited for
				time.Sleep(time.Second)
			}
			continue
		}
		for m := range batch.Messages() {
			if ctx.Err() != nil {
				m.Nak()
				continue
			}
			q.make(ctx, d, m, worker, say)
		}
	}
	return nil
}

// errTaken ends a part whose job is wanted no more.
var errTaken = errors.New("taken back")

// make makes one part, and says so.
func (q *Queue) make(ctx context.Context, d Drawer, m jetstream.Msg, worker string, say func(string)) {
	var p part
	if json.Unmarshal(m.Data(), &p) != nil {
		m.Term()
		return
	}
	ctx, stop := context.WithCancelCause(ctx)
	defer stop(nil)
	if _, err := q.jobs.Get(ctx, p.Job); errors.Is(err, jetstream.ErrKeyNotFound) {
		m.Term()
		return
	}
	go q.attend(ctx, m, p.Job, stop)
	tell := func(t told) {
		t.Number, t.Worker = p.Number, worker
		if data, err := json.Marshal(t); err == nil {
			q.conn.Publish("wunderkammer.told."+p.Job, data)
		}
	}
	packed := func() ([]byte, error) { return q.projects.GetBytes(ctx, p.Project) }
	file, err := d.Draw(ctx, p.Project, packed, p.Asked, func(done, _ int) { tell(told{Done: done}) })
	if err == nil {
		err = q.deliver(ctx, &p, file)
	}
	switch {
	case err == nil:
		m.Ack()
		say(fmt.Sprintf("part %d of %s is made", p.Number+1, p.Job))
	case errors.Is(context.Cause(ctx), errTaken):
		m.Term()
	case ctx.Err() != nil:
		m.Nak() // to another
	default:
		say(fmt.Sprintf("part %d of %s failed: %v", p.Number+1, p.Job, err))
		if about, e := m.Metadata(); e == nil && about.NumDelivered < tries {
			m.NakWithDelay(time.Second)
			return
		}
		tell(told{Error: err.Error()})
		m.Term()
	}
}

// attend says that a part is being made, and ends that when its job is wanted no more.
func (q *Queue) attend(ctx context.Context, m jetstream.Msg, job string, stop context.CancelCauseFunc) {
	var news <-chan jetstream.KeyValueEntry
	if watching, err := q.jobs.Watch(ctx, job); err == nil {
		defer watching.Stop()
		news = watching.Updates()
	}
	every := time.NewTicker(beat)
	defer every.Stop()
	for {
		select {
		case <-every.C:
			m.InProgress()
		case entry := <-news:
			if entry != nil && entry.Operation() != jetstream.KeyValuePut {
				stop(errTaken)
			}
		case <-ctx.Done():
			return
		}
	}
}

// deliver puts what was made into the queue.
func (q *Queue) deliver(ctx context.Context, p *part, file string) error {
	from, err := os.Open(file)
	if err != nil {
		return err
	}
	defer os.Remove(file)
	defer from.Close()
	_, err = q.results.Put(ctx, jetstream.ObjectMeta{Name: p.name()}, from)
	return err
}
