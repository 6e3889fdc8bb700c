// Package farm cuts exports into parts, which go through a queue of NATS JetStream to whoever draws them. The queue starts inside
// the process, or is one outside that others work on, too. It alone says who does what, and what is done again elsewhere.
package farm

import (
	"context"
	"errors"
	"fmt"
	"net"
	"strconv"
	"time"

	"github.com/nats-io/nats-server/v2/server"
	"github.com/nats-io/nats.go"
	"github.com/nats-io/nats.go/jetstream"

	"wunderkammer/core/format"
)

// Names in the queue.
const (
	stream   = "WUNDERKAMMER_PARTS"
	consumer = "workers"
	subjects = "wunderkammer.part.>"
	projects = "wunderkammer-projects"
	results  = "wunderkammer-results"
	jobs     = "wunderkammer-jobs" // that are wanted, by their ids
)

// silence is how long a worker may say nothing of a part until it goes to another; beat is how often it says that it is at it.
var silence, beat = 20 * time.Second, 5 * time.Second

// Times of the queue.
const (
	again = 2 * time.Minute // within which the same part is taken as one
	kept  = 24 * time.Hour  // how long what nobody fetched stays
	ready = 10 * time.Second
)

// tries is how often a part is begun before its job fails.
const tries = 3

// Queue is where parts wait, and what is made of them is put. Close it when it is no longer used.
type Queue struct {
	inside   *server.Server // nil for one outside
	conn     *nats.Conn
	js       jetstream.JetStream
	parts    jetstream.Stream
	projects jetstream.ObjectStore
	results  jetstream.ObjectStore
	jobs     jetstream.KeyValue
}

// part is what a worker is given.
type part struct {
	Job     string       `json:"job"`
	Project string       `json:"project"` // the name of its package
	Asked   format.Asked `json:"asked"`
	Number  int          `json:"number"`
}

// name is what a part and what is made of it are called.
func (p *part) name() string { return p.Job + "." + strconv.Itoa(p.Number) }

// told is what a worker says of a part.
type told struct {
	Number int    `json:"number"`
	Done   int    `json:"done"` // pictures
	Worker string `json:"worker"`
	Error  string `json:"error,omitempty"`
}

// Inside starts a queue in the process, that keeps what it needs in a folder. Others reach it at an address, if one is given.
func Inside(ctx context.Context, folder, listen string) (*Queue, error) {
	o := &server.Options{ServerName: "wunderkammer", JetStream: true, StoreDir: folder, NoSigs: true, NoLog: true, DontListen: listen == ""}
	if listen != "" {
		host, port, err := net.SplitHostPort(listen)
		if err != nil {
			return nil, fmt.Errorf("the queue needs an address and a port such as 127.0.0.1:4222, not %q", listen)
		}
		if o.Port, err = strconv.Atoi(port); err != nil {
			return nil, fmt.Errorf("%s is not a port", port)
		}
		o.Host = host
	}
	s, err := server.NewServer(o)
	if err != nil {
		return nil, fmt.Errorf("the queue can't be started: %w", err)
	}
	go s.Start()
	if !s.ReadyForConnections(ready) {
		s.Shutdown()
		return nil, errors.New("the queue can't be started; is another program using its address?")
	}
	conn, err := nats.Connect("", nats.InProcessServer(s), nats.MaxReconnects(-1))
	if err != nil {
		s.Shutdown()
		return nil, err
	}
	return opened(ctx, &Queue{inside: s, conn: conn})
}

// Outside connects to a queue at an address such as nats://farm:4222. Where it goes away it is waited for.
func Outside(ctx context.Context, address string) (*Queue, error) {
	conn, err := nats.Connect(address, nats.MaxReconnects(-1), nats.Name("wunderkammer"))
	if err != nil {
		return nil, fmt.Errorf("the queue at %s can't be reached: %w", address, err)
	}
	return opened(ctx, &Queue{conn: conn})
}

// opened makes sure that all is there that jobs need.
func opened(ctx context.Context, q *Queue) (_ *Queue, err error) {
	defer func() {
		if err != nil {
			q.Close()
			err = fmt.Errorf("the queue keeps nothing; it needs JetStream: %w", err)
		}
	}()
	if q.js, err = jetstream.New(q.conn); err != nil {
		return nil, err
	}
	q.parts, err = q.js.CreateOrUpdateStream(ctx, jetstream.StreamConfig{
		Name: stream, Subjects: []string{subjects}, Retention: jetstream.WorkQueuePolicy, Duplicates: again, MaxAge: kept,
	})
	if err != nil {
		return nil, err
	}
	if q.projects, err = q.js.CreateOrUpdateObjectStore(ctx, jetstream.ObjectStoreConfig{Bucket: projects, TTL: kept}); err != nil {
		return nil, err
	}
	if q.results, err = q.js.CreateOrUpdateObjectStore(ctx, jetstream.ObjectStoreConfig{Bucket: results, TTL: kept}); err != nil {
		return nil, err
	}
	q.jobs, err = q.js.CreateOrUpdateKeyValue(ctx, jetstream.KeyValueConfig{Bucket: jobs, TTL: kept})
	return q, err
}

// Address is where others reach a queue inside; empty where they can't.
func (q *Queue) Address() string {
	if q.inside == nil || q.inside.Addr() == nil {
		return ""
	}
	return "nats://" + q.inside.Addr().String()
}

// Close leaves the queue, and ends one inside.
func (q *Queue) Close() {
	q.conn.Close()
	if q.inside != nil {
		q.inside.Shutdown()
		q.inside.WaitForShutdown()
	}
}
