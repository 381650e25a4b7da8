package jobs

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"sync"
	"time"

	"nephelon/core/facts"

	"github.com/google/uuid"
	"github.com/hashicorp/golang-lru/v2/simplelru"
	"github.com/klauspost/compress/gzip"
	"golang.org/x/sync/singleflight"

	"nephelon/core/job"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan"
	"nephelon/exchange"
	"nephelon/server/api"
	"nephelon/server/shelf"
	"nephelon/store"
)

// state holds what a plan depends on: a job as it stands, the shelf beside it, the
// units it speaks and the hour it is made in.
type state struct {
	company uuid.UUID
	job     uuid.UUID
	stamp   store.Stamp
	units   measure.System
	hour    int64
	blind   bool // for hands: without prices, and without the client
}

// tag names the state to whoever holds its plan.
func (s state) tag() string {
	return fmt.Sprintf("%s-%d-%d-%d-%s-%d-%t", s.job, s.stamp.Revision, s.stamp.Booked+s.stamp.Logged,
		s.stamp.Shelf, s.units,
		s.hour, s.blind)
}

func stateOf(p store.Person, id uuid.UUID, stamp store.Stamp, now time.Time) state {
	return state{p.CompanyID, id, stamp, p.Units, now.Unix() / int64(time.Hour/time.Second), p.Role == store.Hand}
}

// planned is a job with its plan, worked out and written once.
type planned struct {
	tag      string
	job      store.Job
	version  int64
	text     *planText
	newer    []NewerSheet
	document []byte // the file as it is stored
	whole    []byte // the JobState as JSON
	zipped   []byte // the same, compressed
	asked    time.Time
}

// weight is about how much memory it holds.
func (p *planned) weight() int { return 4*len(p.whole) + len(p.zipped) + len(p.document) }

// mostKept bounds the memory of all plans kept, in bytes; the least used are
// forgotten first. They can always be worked out again.
const mostKept = 192 << 20

// plans keeps what was worked out for states of jobs. It is a cache and nothing
// more: no request depends on what is in it.
type plans struct {
	mutex sync.Mutex
	kept  *simplelru.LRU[string, *planned]
	held  int
	work  singleflight.Group
}

func newPlans() (*plans, error) {
	p := &plans{}
	const many = 1 << 16
	kept, err := simplelru.NewLRU[string, *planned](many, func(_ string, gone *planned) { p.held -= gone.weight() })
	if err != nil {
		return nil, fmt.Errorf("make the cache of plans: %w", err)
	}
	p.kept = kept
	return p, nil
}

func (p *plans) get(tag string) *planned {
	p.mutex.Lock()
	defer p.mutex.Unlock()
	known, there := p.kept.Get(tag)
	if there {
		known.asked = time.Now()
	}
	return known
}

// idle is after how long a plan that nobody asks for is forgotten.
const idle = 5 * time.Minute

// forget forgets what nobody asked for since a time.
func (p *plans) forget(since time.Time) {
	p.mutex.Lock()
	defer p.mutex.Unlock()
	for {
		_, oldest, there := p.kept.GetOldest()
		if !there || oldest.asked.After(since) {
			return
		}
		p.kept.RemoveOldest()
	}
}

// Tidy forgets now and then what nobody asks for, until the context ends.
func (s *Service) Tidy(ctx context.Context) {
	for {
		select {
		case <-ctx.Done():
			return
		case <-time.After(idle / 5):
			s.Forget(time.Now().Add(-idle))
		}
	}
}

func (p *plans) put(made *planned) {
	p.mutex.Lock()
	defer p.mutex.Unlock()
	p.kept.Remove(made.tag)
	made.asked = time.Now()
	p.held += made.weight()
	p.kept.Add(made.tag, made)
	for p.held > mostKept && p.kept.Len() > 1 {
		p.kept.RemoveOldest()
	}
}

// planned is a job as it stands with its plan; worked out once for a state,
// however many ask at the same time.
func (s *Service) planned(ctx context.Context, who store.Person, id uuid.UUID) (*planned, error) {
	stamp, err := s.store.Stamp(ctx, who.CompanyID, id)
	if err != nil {
		return nil, err
	}
	now := time.Now()
	tag := stateOf(who, id, stamp, now).tag()
	if known := s.plans.get(tag); known != nil {
		return known, nil
	}
	made, err, _ := s.plans.work.Do(tag, func() (any, error) {
		// Who asked first may go away; the others still wait for it.
		ctx := context.WithoutCancel(ctx)
		j, err := s.store.Job(ctx, who.CompanyID, id)
		if err != nil {
			return nil, err
		}
		stamp.Revision = j.Revision
		return s.workOut(ctx, who, j, stateOf(who, id, stamp, now), nil, nil, nil)
	})
	if err != nil {
		return nil, err
	}
	p, ok := made.(*planned)
	if !ok {
		return nil, fmt.Errorf("planning %s gave %T", id, made)
	}
	return p, nil
}

// workOut plans a job and keeps what came of it. The plan may have been made
// and the file written already; what equals an earlier state is taken over from it.
func (s *Service) workOut(ctx context.Context, who store.Person, j store.Job, at state, made *plan.Plan,
	document []byte,
	before *planned) (*planned, error) {
	if made == nil {
		world, err := s.store.Facts(ctx, who.CompanyID, j.ID, time.Now())
		if err != nil {
			return nil, err
		}
		p, err := s.plan(ctx, who, world, j.File)
		if err != nil {
			return nil, err
		}
		made = &p
	}
	if at.blind {
		blind := made.Blind()
		made, j.File = &blind, j.File.Blind()
	}
	out := &planned{tag: at.tag(), job: j, version: at.stamp.Version()}
	var old *planText
	if before != nil {
		old = before.text
	}
	var err error
	if out.text, err = encode(*made, old); err != nil {
		return nil, err
	}
	out.newer = []NewerSheet{}
	if !at.blind { // nobody else can take them
		if out.newer, err = s.newer(ctx, who, j.File); err != nil {
			return nil, err
		}
	}
	if out.document = document; document == nil {
		if out.document, err = json.Marshal(j.File); err != nil {
			return nil, fmt.Errorf("encode job: %w", err)
		}
	}
	s.plans.put(out)
	return out, nil
}

// bodyOf returns the whole JobState as JSON, and the same compressed; both are written
// at the first reading.
func (s *Service) bodyOf(p *planned) (whole, zipped []byte, err error) {
	s.plans.mutex.Lock()
	whole, zipped = p.whole, p.zipped
	s.plans.mutex.Unlock()
	if whole != nil {
		return whole, zipped, nil
	}
	head, err := json.Marshal(JobHead{ID: p.job.ID, Tag: p.tag, Version: p.version, Revision: p.job.Revision,
		ChangedBy: p.job.ChangedBy,
		ChangedAt: p.job.ChangedAt, Newer: p.newer})
	if err != nil {
		return nil, nil, fmt.Errorf("encode job: %w", err)
	}
	var text bytes.Buffer
	text.Write(head[:len(head)-1]) // left open
	text.WriteString(`,"file":`)
	text.Write(p.document)
	text.WriteString(`,"plan":`)
	p.text.writeTo(&text)
	text.WriteByte('}')
	if zipped, err = compressed(text.Bytes()); err != nil {
		return nil, nil, err
	}
	s.plans.mutex.Lock()
	before := p.weight()
	p.whole, p.zipped = text.Bytes(), zipped
	if s.plans.kept.Contains(p.tag) {
		s.plans.held += p.weight() - before
	}
	s.plans.mutex.Unlock()
	return text.Bytes(), zipped, nil
}

// compressed returns a text compressed with gzip.
func compressed(text []byte) ([]byte, error) {
	var small bytes.Buffer
	zip := gzip.NewWriter(&small)
	if _, err := zip.Write(text); err != nil {
		return nil, fmt.Errorf("compress: %w", err)
	}
	if err := zip.Close(); err != nil {
		return nil, fmt.Errorf("compress: %w", err)
	}
	return small.Bytes(), nil
}

// mostOffered bounds the sheets that ways out are sought among.
const mostOffered = 60

// planTime is the time that a plan may take: far above the largest.
const planTime = 15 * time.Second

// slow returns a api.SlowPlanError where the time that something was limited to is over while the
// one who asked still waits, the error itself otherwise.
func slow(asked, limited context.Context, err error) error {
	if asked.Err() == nil && limited.Err() != nil {
		return api.SlowPlanError{}
	}
	return err
}

// plan plans a job, with ways out from the company's shelf.
func (s *Service) plan(ctx context.Context, who store.Person, world facts.Facts, file job.File) (plan.Plan, error) {
	// A plan that takes longer is one that nobody waits for.
	limited, cancel := context.WithTimeout(ctx, planTime)
	defer cancel()
	made, err := s.planner.MakeFor(limited, file, world, who.Units)
	if err != nil {
		return made, slow(ctx, limited, err)
	}
	made = made.Brief()
	if who.Role == store.Hand || !made.Seeks() {
		return made, nil
	}
	rows, _, err := s.store.Sheets(ctx, who.CompanyID, store.ProductShelf,
		store.SheetQuery{Kinds: made.SeeksKinds(), Limit: mostOffered})
	if err != nil {
		return made, err
	}
	products := make([]material.Product, len(rows))
	for i, row := range rows {
		if products[i], err = shelf.Sheet[material.Product](row); err != nil {
			return made, fmt.Errorf("decode sheet %s: %w", row.ID, err)
		}
	}
	media, err := shelf.Media(ctx, s.store, who.CompanyID,
		store.SheetQuery{Kinds: []string{"grit", "bead"}, Limit: mostOffered})
	if err != nil {
		return made, err
	}
	return made.Offered(file, products, media), nil
}

// newer lists the sheets that changed on the shelf since a job was planned with
// them.
func (s *Service) newer(ctx context.Context, who store.Person, file job.File) ([]NewerSheet, error) {
	newer := []NewerSheet{}
	ids := make([]string, len(file.Products))
	for i, sheet := range file.Products {
		ids[i] = sheet.ID
	}
	if len(ids) == 0 {
		return newer, nil
	}
	versions, err := s.store.SheetVersion(ctx, who.CompanyID, store.ProductShelf, ids)
	if err != nil {
		return nil, err
	}
	changed := slices.DeleteFunc(slices.Clone(file.Products),
		func(held material.Product) bool { return versions[held.ID] <= held.Version })
	if len(changed) == 0 {
		return newer, nil
	}
	ids = ids[:0]
	for _, held := range changed {
		ids = append(ids, held.ID)
	}
	rows, _, err := s.store.Sheets(ctx, who.CompanyID, store.ProductShelf,
		store.SheetQuery{IDs: ids, Any: true, Limit: len(ids) + 1})
	if err != nil {
		return nil, err
	}
	for _, held := range changed {
		at := slices.IndexFunc(rows, func(r store.SheetRow) bool { return r.ID == held.ID })
		if at < 0 {
			continue
		}
		now, err := shelf.Sheet[material.Product](rows[at])
		if err != nil {
			return nil, fmt.Errorf("decode sheet %s: %w", held.ID, err)
		}
		if changes := now.Changes(held, who.Units); len(changes) > 0 {
			newer = append(newer, NewerSheet{held.Version, now, changes})
		}
	}
	return newer, nil
}

// patched is the file that an edit makes of another, checked and without what no
// coat names any more, with its JSON. Tidied leads from the file as it was edited
// to the one that is kept, so that both sides go on from the same.
func (s *Service) patched(document []byte, steps []exchange.EditStep) (file job.File, kept []byte,
	tidied []exchange.EditStep, err error) {
	text, err := exchange.Patch(document, steps)
	if err != nil {
		return file, nil, nil, err
	}
	if file, err = s.files.ReadEdited(text, steps); err != nil {
		return file, nil, nil, err
	}
	file = file.Pruned()
	if kept, err = json.Marshal(file); err != nil {
		return file, nil, nil, fmt.Errorf("encode job: %w", err)
	}
	return file, kept, exchange.Diff("", text, kept), nil
}

// Forget forgets the plans that nobody asked for since a time.
func (s *Service) Forget(since time.Time) { s.plans.forget(since) }
