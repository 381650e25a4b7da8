// Package server offers the application over HTTP: an API described by OpenAPI,
// and the interface embedded in the binary.
package server

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"net/http"
	"reflect"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"
	"github.com/gin-gonic/gin"
	"github.com/klauspost/compress/gzhttp"

	"nephelon/core/draft"
	"nephelon/core/plan"
	"nephelon/core/record"
	"nephelon/exchange"
	"nephelon/server/api"
	"nephelon/server/calculators"
	"nephelon/server/company"
	"nephelon/server/daylog"
	"nephelon/server/instruments"
	"nephelon/server/jobs"
	"nephelon/server/live"
	"nephelon/server/photos"
	"nephelon/server/proof"
	"nephelon/server/rosters"
	"nephelon/server/sessions"
	"nephelon/server/shelf"
	"nephelon/store"
)

// Options holds what a server is made of.
type Options struct {
	Store  *store.Store
	Pages  fs.FS // the built interface
	Log    *slog.Logger
	Secure bool            // cookies only over TLS
	Proxy  string          // the address of a proxy in front, whose X-Forwarded-For is believed; none when empty
	Apart  bool            // whether roster plans are left to Work of another process
	Plans  float64         // s that a plan of the roster may take at most; as asked, up to 20 s, when zero
	Mail   string          // address of a mail server, see package sessions; none when empty
	Origin string          // where people reach this, https://…, for links in messages
	PDF    shelf.PDFReader // reads data sheets; in the server's own process when nil
	Heads  string          // where heads of logs are sent every night, see package proof; nowhere when empty
}

// Server is the application behind HTTP. It keeps no state of its own but the
// list of who is listening and plans it can make again; any number of them can share a database.
type Server struct {
	store    *store.Store
	log      *slog.Logger
	sessions *sessions.Service
	live     *live.Hub
	apart    bool // roster plans are left to another process
	jobs     *jobs.Service
	rosters  *rosters.Service
	proof    *proof.Service
	rights   map[string]level // of operations
	costly   map[string]*turns
	open     atomic.Int32 // requests under way
	proxy    string       // whose word on a client's address is taken; nobody's when empty
	gauges   *gauges
	times    times
	api      huma.API
	handler  http.Handler
}

const (
	idleTimeout = 2 * time.Minute
	doorLimit   = 64 << 10 // of a body while nobody is signed in
	valuesLimit = 400_000  // in a JSON body: each takes many times the memory of its text
)

// New puts a server together.
func New(o Options) (*Server, error) {
	files, err := exchange.NewReader()
	if err != nil {
		return nil, err
	}
	var pool *sql.DB
	if o.Store != nil {
		pool = o.Store.DB()
	}
	s := &Server{store: o.Store, log: o.Log, apart: o.Apart, rights: rights(), costly: limited(), times: usual(),
		proxy: o.Proxy, gauges: newGauges(pool)}
	gin.SetMode(gin.ReleaseMode)
	engine := gin.New()
	engine.Use(gin.CustomRecoveryWithWriter(nil, s.recovered))
	s.api = humagin.New(engine, apiConfig())
	s.api.UseMiddleware(s.measured, s.authenticate)
	if err := s.routes(o, files); err != nil {
		return nil, err
	}
	exchange.ListValues(s.api.OpenAPI().Components.Schemas, schemas)
	if o.Pages != nil {
		pages, err := newPages(o.Pages)
		if err != nil {
			return nil, err
		}
		engine.NoRoute(pages.serve)
	}
	read := s.legible(engine)
	s.handler = numbered(s.watched(guarded(o.Secure, gzhttp.GzipHandler(s.ended(s.sessions.Loaded(read), read)))))
	return s, nil
}

// routes makes the subjects of the API and adds their operations.
func (s *Server) routes(o Options, files *exchange.Reader) error {
	base := api.Base{API: s.api, Log: o.Log, Trail: o.Store}
	planner := plan.NewPlanner()
	var err error
	if s.sessions, err = sessions.New(base, o.Store,
		sessions.Options{Secure: o.Secure, Mail: o.Mail, Origin: o.Origin}); err != nil {
		return err
	}
	s.live = live.New(base, o.Store, s.sessions.Token)
	whole := company.New(base, o.Store, files, s.sessions.Confirmed)
	if s.jobs, err = jobs.New(base, o.Store, files, planner, s.live, whole); err != nil {
		return err
	}
	if s.rosters, err = rosters.New(base, o.Store, planner, o.Plans); err != nil {
		return err
	}
	send, err := proof.Sender(o.Heads, s.sessions.Mail())
	if err != nil {
		return err
	}
	s.proof = proof.New(base, o.Store, s.gauges.checked, send)
	for _, subject := range []interface{ Routes() }{
		s.sessions, whole, s.jobs, shelf.New(base, o.Store, files, o.PDF, whole), calculators.New(base, o.Store), s.rosters,
		daylog.New(base, o.Store, planner, s.live, func(events int) { s.gauges.events.Add(float64(events)) }),
		photos.New(base, o.Store, whole), s.proof, instruments.New(base, o.Store),
	} {
		subject.Routes()
	}
	s.rightsRoutes()
	return nil
}

// schemas is the prefix of references to types in the description of the API.
const schemas = "#/components/schemas/"

func apiConfig() huma.Config {
	huma.DefaultArrayNullable = false
	config := huma.DefaultConfig("Nephelon", "1")
	config.CreateHooks = nil // no $schema links in bodies
	config.Components.Schemas = huma.NewMapRegistry(schemas, named)
	config.DocsPath, config.SchemasPath = "", ""
	config.OpenAPIPath = "/api/openapi"
	return config
}

// named gives the name of a type in the description of the API. The record speaks of
// surfaces, coats and batches, too, as they were issued.
func named(t reflect.Type, hint string) string {
	name := huma.DefaultSchemaNamer(t, hint)
	if t.Name() == "" && t.Kind() == reflect.Struct { // named by its fields
		name = "Request"
		for i := range t.NumField() {
			field, _, _ := strings.Cut(t.Field(i).Tag.Get("json"), ",")
			if field != "" {
				name += strings.ToUpper(field[:1]) + field[1:]
			}
		}
	}
	for t.Kind() == reflect.Pointer || t.Kind() == reflect.Slice {
		t = t.Elem()
	}
	if strings.HasPrefix(t.PkgPath(), reflect.TypeFor[record.Event]().PkgPath()) {
		return "Record" + name
	}
	if t.PkgPath() == reflect.TypeFor[draft.Draft]().PkgPath() {
		return "Sheet" + name
	}
	return name
}

// ServeHTTP answers one request.
func (s *Server) ServeHTTP(w http.ResponseWriter, r *http.Request) { s.handler.ServeHTTP(w, r) }

// OpenAPI describes the API as JSON.
func (s *Server) OpenAPI() ([]byte, error) {
	text, err := s.api.OpenAPI().MarshalJSON()
	if err != nil {
		return nil, fmt.Errorf("describe the API: %w", err)
	}
	return text, nil
}

func (s *Server) recovered(c *gin.Context, cause any) {
	s.log.ErrorContext(c.Request.Context(), "a request failed", "path", c.Request.URL.Path, "cause", cause)
	c.AbortWithStatusJSON(http.StatusInternalServerError,
		huma.Error500InternalServerError("An internal error occurred. Your entries are kept on this device; try again."))
}

// Work plans the rosters that were asked for at any server on the same database, at most that many at a time, until the
// context ends. A plan that is under way then is taken up by another.
func (s *Server) Work(ctx context.Context, most int) {
	var all sync.WaitGroup
	for range most {
		all.Go(func() { s.rosters.Work(ctx) })
	}
	all.Wait()
}

// Serve answers requests on the listener until the context ends.
func (s *Server) Serve(ctx context.Context, web *http.Server, serve func() error) error {
	web.Handler = s
	web.ReadHeaderTimeout, web.IdleTimeout = s.times.pause, idleTimeout
	listening, stop := context.WithCancel(ctx)
	defer stop()
	web.RegisterOnShutdown(s.live.Close)
	go s.live.Follow(listening)
	if !s.apart {
		go s.rosters.Work(listening)
	}
	go s.jobs.Tidy(listening)
	go s.proof.Work(listening)
	ended := make(chan error, 1)
	go func() { ended <- serve() }()
	select {
	case err := <-ended:
		return fmt.Errorf("serve: %w", err)
	case <-ctx.Done():
	}
	limited, cancel := context.WithTimeout(context.WithoutCancel(ctx), s.times.drain)
	defer cancel()
	if err := web.Shutdown(limited); err != nil {
		// What is still under way then is cut, and how much of it is told.
		s.log.WarnContext(ctx, "requests were cut at the end", "cut", s.open.Load(), "after", s.times.drain.String())
		if err := web.Close(); err != nil {
			return fmt.Errorf("stop serving: %w", err)
		}
	}
	if err := <-ended; !errors.Is(err, http.ErrServerClosed) {
		return fmt.Errorf("serve: %w", err)
	}
	return nil
}
