package farm

import (
	"context"
	"crypto/sha256"
	"encoding/json"
	"errors"
	"fmt"
	"path/filepath"
	"strconv"
	"strings"

	"github.com/nats-io/nats.go"
	"github.com/nats-io/nats.go/jetstream"

	"wunderkammer/core/format"
)

// Progress is how far a job is.
type Progress struct {
	Done, Of int // pictures
	Workers  int // that have said something of it
}

// Job is an export that is cut into parts.
type Job struct {
	Package  []byte       // the project, packed
	Asked    format.Asked // settled
	Pictures int
	Each     int // pictures of a part, at most
}

// Run puts a job into the queue, waits until all of its parts are made, and returns them as files in a folder, in their order.
// The same job twice is one: parts that were made already are not made again. Where the context ends, its parts are taken back.
func (q *Queue) Run(ctx context.Context, j Job, folder string, tell func(Progress)) (files []string, err error) {
	cut := (j.Pictures + j.Each - 1) / j.Each
	id, err := j.id()
	if err != nil {
		return nil, err
	}
	listening, stop := context.WithCancel(ctx)
	defer stop()
	counted := j.listen(listening, tell)
	failed := make(chan error, 1)
	sub, err := q.conn.Subscribe("wunderkammer.told."+id, func(m *nats.Msg) {
		var t told
		if json.Unmarshal(m.Data, &t) != nil {
			return
		}
		if t.Error != "" {
			select {
			case failed <- errors.New(t.Error):
			default:
			}
			return
		}
		counted(t)
	})
	if err != nil {
		return nil, err
	}
	defer sub.Unsubscribe()
	watching, err := q.results.Watch(ctx)
	if err != nil {
		return nil, err
	}
	defer watching.Stop()
	defer q.forget(id, cut)
	if err := q.put(ctx, j, id, cut); err != nil {
		return nil, err
	}
	made := make([]bool, cut)
	for left := cut; left > 0; {
		select {
		case info := <-watching.Updates():
			if info == nil || info.Deleted {
				continue
			}
			number, ours := strings.CutPrefix(info.Name, id+".")
			if n, err := strconv.Atoi(number); ours && err == nil && n >= 0 && n < cut && !made[n] {
				made[n] = true
				left--
				counted(told{Number: n, Done: j.count(n)})
			}
		case err := <-failed:
			return nil, err
		case <-ctx.Done():
			return nil, ctx.Err()
		}
	}
	for n := range cut {
		file := filepath.Join(folder, strconv.Itoa(n))
		if err := q.results.GetFile(ctx, (&part{Job: id, Number: n}).name(), file); err != nil {
			return nil, fmt.Errorf("a part can't be fetched from the queue: %w", err)
		}
		files = append(files, file)
	}
	return files, nil
}

// id is what a job is called: the same for the same.
func (j *Job) id() (string, error) {
	asked, err := json.Marshal(j.Asked)
	if err != nil {
		return "", err
	}
	h := sha256.New()
	h.Write(j.Package)
	h.Write(asked)
	fmt.Fprint(h, j.Each)
	return fmt.Sprintf("%x", h.Sum(nil)[:12]), nil
}

// count is how many pictures a part has.
func (j *Job) count(n int) int { return min(j.Each, j.Pictures-n*j.Each) }

// listen adds up what workers say, until the context ends.
func (j *Job) listen(ctx context.Context, tell func(Progress)) func(told) {
	done, workers := map[int]int{}, map[string]bool{}
	news := make(chan told, 256)
	go func() {
		for {
			var t told
			select {
			case t = <-news:
			case <-ctx.Done():
				return
			}
			done[t.Number] = max(done[t.Number], t.Done)
			if t.Worker != "" {
				workers[t.Worker] = true
			}
			sum := 0
			for _, n := range done {
				sum += n
			}
			tell(Progress{sum, j.Pictures, len(workers)})
		}
	}()
	return func(t told) {
		select {
		case news <- t:
		default: // of how far it is, more will be said
		}
	}
}

// put puts the project and the parts into the queue.
func (q *Queue) put(ctx context.Context, j Job, id string, cut int) error {
	project := fmt.Sprintf("%x", sha256.Sum256(j.Package))
	if _, err := q.projects.GetInfo(ctx, project); err != nil {
		if _, err := q.projects.PutBytes(ctx, project, j.Package); err != nil {
			return fmt.Errorf("the project can't be put into the queue: %w", err)
		}
	}
	if _, err := q.jobs.PutString(ctx, id, "wanted"); err != nil {
		return fmt.Errorf("the job can't be put into the queue: %w", err)
	}
	for n := range cut {
		p := part{Job: id, Project: project, Asked: j.Asked, Number: n}
		p.Asked.Part = &format.Part{First: n * j.Each, Count: j.count(n)}
		if _, err := q.results.GetInfo(ctx, p.name()); err == nil { // it was made before
			continue
		}
		data, err := json.Marshal(p)
		if err != nil {
			return err
		}
		if _, err := q.js.Publish(ctx, "wunderkammer.part."+p.name(), data, jetstream.WithMsgID(p.name())); err != nil {
			return fmt.Errorf("a part can't be put into the queue: %w", err)
		}
	}
	return nil
}

// forget takes back what of a job still waits, tells those who are at it, and drops what was made.
func (q *Queue) forget(id string, cut int) {
	ctx, stop := context.WithTimeout(context.Background(), ready)
	defer stop()
	q.jobs.Delete(ctx, id)
	q.parts.Purge(ctx, jetstream.WithPurgeSubject("wunderkammer.part."+id+".*"))
	for n := range cut {
		q.results.Delete(ctx, (&part{Job: id, Number: n}).name())
	}
}
