// Package e2e drives the real interface in headless Chromium, on one server,
// one database and one browser.
package e2e

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"net/http/httptest"
	"os"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/chromedp/cdproto"
	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/css"
	"github.com/chromedp/cdproto/dom"
	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/log"
	"github.com/chromedp/cdproto/network"
	browserpage "github.com/chromedp/cdproto/page"
	"github.com/chromedp/cdproto/runtime"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"nephelon/core/measure"
	"nephelon/demo"
	"nephelon/server"
	"nephelon/standin"
	"nephelon/store"
	"nephelon/store/localdb"
	"nephelon/store/storetest"
	"nephelon/web"
)

const patience = 60 * time.Second

// stage is what all journeys share.
type stage struct {
	browser context.Context
	records *store.Store
	cluster *localdb.Cluster
	address string
	site    string // the simulated instruments

	mutex    sync.Mutex
	sessions map[string]*network.Cookie // of who has signed in, by server and e-mail address
}

// theStage is set once by TestMain, before any test runs.
var theStage stage

func TestMain(m *testing.M) {
	code, err := run(m)
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		code = 1
	}
	os.Exit(code)
}

func run(m *testing.M) (code int, err error) {
	ctx := context.Background()
	theStage.sessions = make(map[string]*network.Cookie)
	folder, err := os.MkdirTemp("", "nephelon-e2e-")
	if err != nil {
		return 0, err
	}
	defer os.RemoveAll(folder)
	cluster, err := localdb.Start(ctx, folder, localdb.Scratch)
	if err != nil {
		return 0, err
	}
	theStage.cluster = cluster
	defer func() { err = errors.Join(err, cluster.Stop(ctx)) }()
	if theStage.records, err = store.Open(ctx, cluster.URL); err != nil {
		return 0, err
	}
	defer theStage.records.Close()
	if err := storetest.Sign(theStage.records); err != nil {
		return 0, err
	}
	if err := demo.LoadOnce(ctx, theStage.records); err != nil {
		return 0, err
	}
	site := httptest.NewServer(standin.New(1, time.Now).Handler())
	defer site.Close()
	theStage.site = site.URL
	if err := theStage.records.SetCompany(ctx, demo.People()[0].Email, &site.URL, nil); err != nil {
		return 0, err
	}
	h, err := startHost("127.0.0.1:0")
	if err != nil {
		return 0, err
	}
	defer h.stop()
	theStage.address = h.address
	allocator, cancelAllocator := chromedp.NewExecAllocator(ctx, append(chromedp.DefaultExecAllocatorOptions[:],
		chromedp.NoSandbox, chromedp.ExecPath("/usr/bin/chromium-headless-shell"), chromedp.WindowSize(1280, 800),
		chromedp.Flag("disable-component-update", true), chromedp.Flag("disable-quic", true), chromedp.DisableGPU,
		// Journeys test what is there in the end, not how it slides in.
		chromedp.Flag("force-prefers-reduced-motion", true),
		chromedp.Flag("disable-features", "Translate,WebUIOmniboxPopup,WebUIOmniboxAimPopup"))...)
	defer cancelAllocator()
	browser, cancelBrowser := chromedp.NewContext(allocator)
	defer cancelBrowser()
	theStage.browser = browser
	if err := chromedp.Do(browser); err != nil {
		return 0, fmt.Errorf("start Chromium: %w", err)
	}
	return m.Run(), nil
}

// host is one running server on the shared database.
type host struct {
	address string
	cancel  context.CancelFunc
	ended   chan error
}

func startHost(address string) (*host, error) { return startHostOn(theStage.records, address) }

func startHostOn(records *store.Store, address string) (*host, error) {
	pages, err := web.Pages()
	if err != nil {
		return nil, err
	}
	s, err := server.New(server.Options{Store: records, Pages: pages, Plans: 1,
		Log: slog.New(slog.NewTextHandler(os.Stderr, &slog.HandlerOptions{Level: slog.LevelWarn}))})
	if err != nil {
		return nil, err
	}
	listener, err := net.Listen("tcp", address)
	if err != nil {
		return nil, err
	}
	ctx, cancel := context.WithCancel(context.Background())
	h := &host{address: listener.Addr().String(), cancel: cancel, ended: make(chan error, 1)}
	httpServer := &http.Server{}
	go func() {
		h.ended <- s.Serve(ctx, httpServer, func() error { return httpServer.Serve(listener) })
	}()
	return h, nil
}

// stop ends the server and waits until its port is free.
func (h *host) stop() {
	h.cancel()
	<-h.ended
}

// page is a browser tab with cookies of its own, driven by one person.
type page struct {
	t    *testing.T
	ctx  context.Context
	base string

	mutex  sync.Mutex
	faults []string
}

// newPage opens a tab. Any script error, policy violation or request to another
// host fails the test.
func newPage(t *testing.T, address string) *page {
	t.Helper()
	ctx, cancel := chromedp.NewContext(theStage.browser, chromedp.WithNewBrowserContext())
	t.Cleanup(cancel)
	p := &page{t: t, ctx: ctx, base: "http://" + address}
	if err := chromedp.Listen(ctx, p.heard); err != nil {
		t.Fatal(err)
	}
	p.do(chromedp.EmulateViewport(1280, 800))
	// Each tab counts as the one in front, however many there are.
	if _, err := chromedp.Call(ctx, emulation.SetFocusEmulationEnabled,
		emulation.SetFocusEmulationEnabledParams{Enabled: true}); err != nil {
		t.Fatal(err)
	}
	// Journeys ask the page by scripts: a copy of its whole tree, kept on this side of the
	// connection, would cost as much as the page itself.
	if err := errors.Join(quiet(ctx, css.Disable), quiet(ctx, dom.Disable)); err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() {
		p.mutex.Lock()
		defer p.mutex.Unlock()
		for _, fault := range p.faults {
			t.Error(fault)
		}
	})
	return p
}

func quiet(ctx context.Context, domain cdp.Command[cdp.Empty, cdp.Empty]) error {
	_, err := chromedp.Call(ctx, domain, cdp.Empty{})
	return err
}

func (p *page) heard(event any) {
	fault := ""
	switch e := event.(type) {
	case *browserpage.EventJavascriptDialogOpening:
		// A question of the browser's own stops the page until it is answered.
		fault = "the browser asked: " + string(e.Type) + " " + e.Message
		go func() {
			_, _ = chromedp.Call(p.ctx, browserpage.HandleJavaScriptDialog,
				browserpage.HandleJavaScriptDialogParams{Accept: true})
		}()
	case *runtime.EventExceptionThrown:
		fault = "script error: " + e.ExceptionDetails.Text
		if e.ExceptionDetails.Exception != nil {
			fault += " " + e.ExceptionDetails.Exception.Description
		}
	case *runtime.EventConsoleAPICalled:
		if e.Type == runtime.ConsoleAPICalledTypeError {
			fault = "console:"
			for _, argument := range e.Args {
				fault += " " + argument.Description + string(argument.Value)
			}
		}
	case *log.EventEntryAdded:
		if e.Entry.Level == log.EntryLevelError && e.Entry.Source != log.EntrySourceNetwork {
			fault = "browser log: " + e.Entry.Text
		}
	case *network.EventRequestWillBeSent:
		if u := e.Request.URL; !strings.HasPrefix(u, p.base) && !strings.HasPrefix(u, "data:") &&
			!strings.HasPrefix(u, "blob:") {
			fault = "a request left the host: " + u
		}
	}
	if fault != "" {
		p.mutex.Lock()
		defer p.mutex.Unlock()
		p.faults = append(p.faults, fault)
	}
}

// do runs steps within the time a person would wait.
func (p *page) do(steps ...chromedp.Action[chromedp.Void]) {
	p.t.Helper()
	if err := p.try(steps...); err != nil {
		p.t.Fatalf("%v\nthe page reads: %s", err, p.glance())
	}
}

func (p *page) try(steps ...chromedp.Action[chromedp.Void]) error {
	if err := chromedp.Do(p.ctx); err != nil {
		return err
	}
	ctx, cancel := context.WithTimeout(p.ctx, patience)
	defer cancel()
	return chromedp.Do(ctx, steps...)
}

func (p *page) glance() string {
	ctx, cancel := context.WithTimeout(p.ctx, patience)
	defer cancel()
	text, err := asked[string](ctx, `document.body.innerText.slice(0, 1500)`)
	if err != nil {
		return err.Error()
	}
	return text
}

// beforeAnyScript runs a script in every page that is opened from now on.
func (p *page) beforeAnyScript(script string) {
	p.t.Helper()
	if err := chromedp.Do(p.ctx); err != nil {
		p.t.Fatal(err)
	}
	if _, err := chromedp.Call(p.ctx, browserpage.AddScriptToEvaluateOnNewDocument,
		browserpage.AddScriptToEvaluateOnNewDocumentParams{Source: script}); err != nil {
		p.t.Fatal(err)
	}
}

// value returns what a script reads off the page, once what it reads is drawn.
func value[T any](p *page, script string) T {
	p.t.Helper()
	ctx, cancel := context.WithTimeout(p.ctx, patience)
	defer cancel()
	v, err := asked[T](ctx, script)
	for undrawn(err) && ctx.Err() == nil {
		v, err = asked[T](ctx, script)
	}
	if err != nil {
		p.t.Fatalf("%s: %v", script, err)
	}
	return v
}

// asked returns what a script of the page answers, at once or in the end.
func asked[T any](ctx context.Context, script string) (answer T, err error) {
	told, err := chromedp.Call(ctx, runtime.Evaluate,
		runtime.EvaluateParams{Expression: script, ReturnByValue: new(true), AwaitPromise: new(true)})
	if err != nil {
		return answer, err
	}
	if fault := told.ExceptionDetails; fault != nil {
		return answer, &scriptFault{class: fault.Exception.ClassName, told: fault.Exception.Description}
	}
	return answer, json.Unmarshal([]byte(told.Result.Value), &answer)
}

// scriptFault is what a script threw.
type scriptFault struct{ class, told string }

func (f *scriptFault) Error() string { return f.told }

// undrawn tells whether a script asked for an element that is not there yet.
func undrawn(err error) bool {
	fault, ok := errors.AsType[*scriptFault](err)
	return ok && fault.class == "TypeError"
}

// until waits for a script to become true. A page that another takes the place
// of while it is asked takes the question with it: the next one is asked.
func (p *page) until(script string) {
	p.t.Helper()
	ctx, cancel := context.WithTimeout(p.ctx, patience)
	defer cancel()
	ask := fmt.Sprintf(`(async () => {
		const until = performance.now() + 2000;
		for (;;) {
			let told = 'not yet';
			try {
				if (await (%s)) return '';
			} catch (fault) {
				// What is asked about stands only once its part is drawn.
				if (!(fault instanceof TypeError)) throw fault;
				told = String(fault);
			}
			if (performance.now() > until) return told;
			await new Promise((wake) => setTimeout(wake, 30));
		}
	})()`, script)
	told, err := asked[string](ctx, ask)
	for (replaced(err) || err == nil && told != "") && ctx.Err() == nil {
		told, err = asked[string](ctx, ask)
	}
	if err != nil || told != "" {
		p.t.Fatalf("waited for %s: %s %v\nthe page reads: %s", script, told, err, p.glance())
	}
}

// replaced is the protocol's word for a page that was left while it was asked.
func replaced(err error) bool {
	refusal, ok := errors.AsType[*cdproto.Error](err)
	return ok && (strings.HasPrefix(refusal.Message, "Cannot find context") ||
		strings.HasPrefix(refusal.Message, "Execution context was destroyed"))
}

// sees waits until an element shows a text.
func (p *page) sees(selector, text string) {
	p.t.Helper()
	p.until(
		fmt.Sprintf(
			`[...document.querySelectorAll(%q)].some(e => (e.innerText ?? e.textContent).replaceAll('\u202f',' ').includes(%q))`,
			selector, text))
}

func (p *page) open(path string) {
	p.t.Helper()
	p.do(chromedp.Navigate(p.base + path))
}

// goTo turns to a page of the application as its links do, without reading it anew.
func (p *page) goTo(path string) {
	p.t.Helper()
	value[bool](p, fmt.Sprintf(`(() => {
		history.pushState(null, '', %q);
		return dispatchEvent(new PopStateEvent('popstate', { state: null }));
	})()`, path))
	// The former page stands until the new one's own part is read.
	p.until(`document.querySelector('main').dataset.path === location.pathname`)
}

// scroll brings an element into view.
func (p *page) scroll(selector string) {
	p.t.Helper()
	p.until(fmt.Sprintf(`(e => !!e && (e.scrollIntoView({ block: 'start', behavior: 'instant' }), true))(document.querySelector(%q))`,
		selector))
}

// click clicks an element as a hand would: in view, once nothing is sliding in
// or out, once it stands still, and with nothing lying over it.
func (p *page) click(selector string) {
	p.t.Helper()
	p.until(fmt.Sprintf(`(() => {
		const e = %s(document.querySelector(%q));
		if (!e || e.disabled || document.querySelector('[class*=-enter-active], [class*=-leave-active]')) return false;
		const box = () => { const r = e.getBoundingClientRect(); return [r.x, r.y, r.width, r.height].map(Math.round).join() };
		if (window.stoodAt !== box()) {
			e.scrollIntoView({ block: 'center', behavior: 'instant' });
			window.stoodAt = box();
			return false;
		}
		const r = e.getBoundingClientRect();
		window.clickAt = [r.x + r.width / 2, r.y + r.height / 2];
		const meant = hit => !!hit && (e.contains(hit) || hit.contains(e) || !!e.closest('label')?.contains(hit));
		if (!meant(document.elementFromPoint(...window.clickAt))) return false;
		// A press and a release on two places are a click on what holds both, or none at all.
		const taken = hit => e.contains(hit) || !!e.closest('label')?.contains(hit) || hit.contains(e) && !!hit.closest('svg, button, a, label');
		window.missed = true;
		document.addEventListener('click', click => (window.missed = !taken(click.target)), { once: true, capture: true });
		return true;
	})()`, sought, selector))
	at := value[[]float64](p, `window.clickAt`)
	const dialogs = `document.querySelectorAll('.v-dialog').length`
	before := value[int](p, dialogs)
	p.do(chromedp.MouseClickXY(at[0], at[1]))
	if value[bool](p, `window.missed === true`) {
		// An answer that came meanwhile moved the page under the pointer: who misses
		// closes what opened instead, and clicks again.
		if value[int](p, dialogs) > before {
			p.keys(kb.Escape)
			p.until(fmt.Sprintf(`%s <= %d`, dialogs, before))
		}
		p.click(selector)
	}
}

// unfold opens every folded part of the page, and what is folded in them.
func (p *page) unfold() {
	p.t.Helper()
	p.until(`(() => {
		const folded = [...document.querySelectorAll('main .v-expansion-panel-title[aria-expanded=false]')];
		folded.forEach(e => e.click());
		return folded.length === 0 && !document.querySelector('[class*=-enter-active]');
	})()`)
}

// upload chooses files in a field for them.
func (p *page) upload(selector string, files ...string) {
	p.t.Helper()
	p.until(fmt.Sprintf(`!!document.querySelector(%q)`, selector))
	field, err := chromedp.Call(p.ctx, runtime.Evaluate,
		runtime.EvaluateParams{Expression: fmt.Sprintf(`document.querySelector(%q)`, selector)})
	if err != nil {
		p.t.Fatal(err)
	}
	if _, err := chromedp.Call(p.ctx, dom.SetFileInputFiles,
		dom.SetFileInputFilesParams{Files: files, ObjectID: field.Result.ObjectID}); err != nil {
		p.t.Fatal(err)
	}
}

// button marks the button with a name, so that it can be clicked for real.
func (p *page) button(name string) {
	p.t.Helper()
	p.until(fmt.Sprintf(`(() => {
		document.querySelectorAll('[data-found]').forEach(e => e.removeAttribute('data-found'));
		const named = e => (e.getAttribute('aria-label') ?? e.innerText).trim() === %q;
		const b = [...document.querySelectorAll('button, a, [role=tab]')].find(e => named(e) && e.offsetParent !== null && !e.disabled);
		b?.setAttribute('data-found', '');
		return !!%s(b);
	})()`, name, sought))
	p.click("[data-found]")
}

// sought is a script that passes on what was found. What is not there for a while may lie in a folded part: a person
// would look there, too, so the folded parts of the page are opened.
const sought = `(found => {
	if (found) {
		window.soughtSince = undefined;
		return found;
	}
	window.soughtSince ??= performance.now();
	if (performance.now() - window.soughtSince > 400) {
		window.soughtSince = undefined;
		document.querySelectorAll('main .v-expansion-panel-title[aria-expanded=false]').forEach(e => e.click());
	}
	return found;
})`

// field gives the selector of the input with a label.
func (p *page) field(label string) string {
	p.t.Helper()
	p.until(`!!` + labelled(label))
	return "[data-field]"
}

// labelled is a script that marks the input with a label, where it is open to entries, and returns it.
func labelled(label string) string {
	return fmt.Sprintf(`(() => {
		document.querySelectorAll('[data-field]').forEach(e => e.removeAttribute('data-field'));
		const l = [...document.querySelectorAll('label')].find(l => l.innerText.trim() === %q && l.htmlFor);
		const e = %s((l && document.getElementById(l.htmlFor)) ??
			document.querySelector('[aria-label="' + CSS.escape(%q) + '"]'));
		e?.setAttribute('data-field', '');
		return e?.disabled ? undefined : e;
	})()`, label, sought, label)
}

// fill replaces what stands in a field and takes it with Enter.
func (p *page) fill(label, text string) {
	p.t.Helper()
	p.typed(label, text)
	p.keys("\r")
}

// typed replaces what stands in a field and leaves it there.
func (p *page) typed(label, text string) {
	p.t.Helper()
	p.until(fmt.Sprintf(`(() => {
		const field = %s;
		if (!field?.select) return false; // a list that turns into a field when it is read
		field.scrollIntoView({ block: 'center', behavior: 'instant' });
		field.focus();
		field.select();
		return true;
	})()`, labelled(label)))
	p.keys(text)
}

// day enters a day, such as 2031-03-04, or a time of one into a field for them.
func (p *page) day(label, day string) {
	p.t.Helper()
	value[bool](p, fmt.Sprintf(`(() => {
		const field = document.querySelector(%q);
		field.value = %q;
		field.dispatchEvent(new Event('input', { bubbles: true }));
		field.dispatchEvent(new Event('change', { bubbles: true }));
		return true;
	})()`, p.field(label), day))
}

// choose picks an option by the start of its text, of a list that is looked through or searched.
func (p *page) choose(label, option string) {
	p.t.Helper()
	// A list that grows long while it is read turns into a field that searches.
	p.until(fmt.Sprintf(`(() => {
		const list = %s;
		return list?.tagName === 'INPUT' || [...list?.options ?? []].some(o => o.text.trim().startsWith(%q));
	})()`, labelled(label), option))
	if value[bool](p, fmt.Sprintf(`(() => {
		const list = document.querySelector('[data-field]');
		const found = [...list.options ?? []].find(o => o.text.trim().startsWith(%q));
		if (!found) return false;
		list.value = found.value;
		list.dispatchEvent(new Event('change', { bubbles: true }));
		return true;
	})()`, option)) {
		return
	}
	p.found(label, option)
}

// found types a name into a field that searches, and takes the first entry that begins with it.
func (p *page) found(label, name string) {
	p.t.Helper()
	p.typed(label, name)
	p.until(fmt.Sprintf(`[...document.querySelectorAll('[role=listbox] .v-list-item')].some(e => e.innerText.trim().startsWith(%q))`,
		name))
	value[bool](p, fmt.Sprintf(`(() => {
		[...document.querySelectorAll('[role=listbox] .v-list-item')].find(e => e.innerText.trim().startsWith(%q)).click();
		return true;
	})()`, name))
	p.until(`!document.querySelector('[role=listbox]')?.checkVisibility()`)
}

// saved waits until every edit is with the server.
func (p *page) saved() {
	p.t.Helper()
	p.until(`document.querySelector('[data-test=save-state]')?.dataset.state === 'saved'`)
}

// signIn signs a demo person in: through the page of the sign-in at first, then with the
// session that this began, as long as it is valid.
func (p *page) signIn(email string) {
	p.t.Helper()
	key := p.base + " " + email
	theStage.mutex.Lock()
	c := theStage.sessions[key]
	theStage.mutex.Unlock()
	if c != nil {
		p.setCookie(c)
		p.open("/jobs")
		p.until(`location.pathname === '/sign-in' || !!document.querySelector('main h1, [data-test=new-job]')`)
		if value[string](p, `location.pathname`) == "/jobs" {
			return
		}
	}
	p.signInByPassword(email)
	cookies, err := chromedp.Call(p.ctx, network.GetCookies, network.GetCookiesParams{})
	if err != nil {
		p.t.Fatal(err)
	}
	theStage.mutex.Lock()
	defer theStage.mutex.Unlock()
	for _, c := range cookies.Cookies {
		theStage.sessions[key] = c
	}
}

func (p *page) signInByPassword(email string) {
	p.t.Helper()
	p.open("/sign-in")
	p.typed("E-mail address", email)
	p.fill("Password", demo.Password)
	p.until(`location.pathname === '/jobs'`)
}

// home turns to the list of jobs, unless that is open with nothing over it.
func (p *page) home() {
	p.t.Helper()
	if value[bool](p,
		`location.pathname === '/jobs' && location.search === '' && !document.querySelector('[role=dialog]')`) {
		return
	}
	if value[bool](p, `!!document.querySelector('main[data-path]') && !document.querySelector('[role=dialog]')`) {
		p.goTo("/jobs")
		return
	}
	p.open("/jobs")
}

// units switches what the person reads.
func (p *page) units(system string) {
	p.t.Helper()
	p.click(fmt.Sprintf(`[data-units=%q]`, system))
	p.until(fmt.Sprintf(`document.querySelector('[data-units=%q]').ariaPressed === 'true'`, system))
}

// openJob opens a job from the list by its name.
func (p *page) openJob(name string) {
	p.t.Helper()
	p.home()
	p.typed("Search name, client or site", name)
	p.until(fmt.Sprintf(`(() => {
		const jobs = [...document.querySelectorAll('a.job')];
		const found = jobs.every(a => a.innerText.toLowerCase().includes(%q)) ? jobs[0] : undefined;
		found?.setAttribute('data-found', '');
		return !!found;
	})()`, strings.ToLower(name)))
	p.click("[data-found]")
	p.until(`!!document.querySelector('[data-test=save-state]')`)
}

// at turns to a step of the open job, as a person would by its strip.
func (p *page) at(step string) {
	p.t.Helper()
	if value[bool](p, fmt.Sprintf(`!!document.getElementById(%q)`, step)) {
		return
	}
	p.click(fmt.Sprintf("[data-step=%s]", step))
	p.until(fmt.Sprintf(`!!document.getElementById(%q)`, step))
}

// setting turns to the batches with the crew and the mixing place open beside them.
func (p *page) setting() {
	p.t.Helper()
	p.at("batches")
	if !value[bool](p, `!!document.querySelector('.side-sheet h2')`) {
		p.click("[data-test=to-setup]")
	}
}

// part turns to a part of a step, such as the preparation of a survey.
func (p *page) part(id string) {
	p.t.Helper()
	p.click(fmt.Sprintf("[data-part=%s]", id))
}

// surface turns to a surface of the open job by its name.
func (p *page) surface(name string) {
	p.t.Helper()
	p.until(fmt.Sprintf(`(() => {
		document.querySelectorAll('[data-found]').forEach(e => e.removeAttribute('data-found'));
		const tab = [...document.querySelectorAll('[role=tab]')].find(e => e.innerText.startsWith(%q));
		tab?.setAttribute('data-found', '');
		return !!tab;
	})()`, name))
	p.click("[data-found]")
}

// newJob makes a job of one's own and opens it.
func (p *page) newJob(name string) {
	p.t.Helper()
	p.home()
	p.click("[data-test=new-job]")
	p.fill("Name of the job", name)
	p.until(`!!document.querySelector('[data-test=save-state]')`)
}

// begin opens a new job of an estimator of its own, in metric units: journeys run beside each other,
// and what a person chooses to read is kept with the account.
func begin(t *testing.T, job string) *page {
	t.Helper()
	person, err := theStage.records.PersonByEmail(t.Context(), "oskar@brakkwater.example")
	if err != nil {
		t.Fatal(err)
	}
	person.Email = strings.ToLower(t.Name()) + "@brakkwater.example"
	person.Units = measure.Metric
	if _, err := theStage.records.AddPerson(t.Context(), person); err != nil {
		t.Fatal(err)
	}
	p := newPage(t, theStage.address)
	p.signInByRequest(person.Email)
	p.open("/jobs")
	p.newJob(job)
	return p
}

// signInByRequest begins a session without the page of the sign-in.
func (p *page) signInByRequest(email string) {
	p.t.Helper()
	body, err := json.Marshal(map[string]string{"email": email, "password": demo.Password})
	if err != nil {
		p.t.Fatal(err)
	}
	request, err := http.NewRequestWithContext(p.t.Context(), http.MethodPost, p.base+"/api/session",
		bytes.NewReader(body))
	if err != nil {
		p.t.Fatal(err)
	}
	request.Header.Set("Content-Type", "application/json")
	answer, err := http.DefaultClient.Do(request)
	if err != nil {
		p.t.Fatal(err)
	}
	defer answer.Body.Close()
	cookies := answer.Cookies()
	if len(cookies) == 0 {
		p.t.Fatalf("no session for %s: %s", email, answer.Status)
	}
	for _, c := range cookies {
		p.setCookie(&network.Cookie{Name: c.Name, Value: c.Value, HTTPOnly: c.HttpOnly,
			SameSite: network.CookieSameSiteStrict})
	}
}

func (p *page) setCookie(c *network.Cookie) {
	p.t.Helper()
	if _, err := chromedp.Call(p.ctx, network.SetCookie,
		network.SetCookieParams{Name: c.Name, Value: c.Value, URL: p.base, HTTPOnly: &c.HTTPOnly,
			SameSite: c.SameSite}); err != nil {
		p.t.Fatal(err)
	}
}

// printedPages is how many sheets of paper the page takes, in the size that it
// asks for.
func (p *page) printedPages() int {
	p.t.Helper()
	pdf, err := chromedp.Run(p.ctx, chromedp.PrintToPDF(chromedp.PDFPrintBackground(), chromedp.PDFPreferCSSPageSize()))
	if err != nil {
		p.t.Fatal(err)
	}
	return bytes.Count(pdf, []byte("/Type /Page\n")) + bytes.Count(pdf, []byte("/Type /Page "))
}

// printedSize returns the size of the letters of an element on paper, in CSS pixels.
func (p *page) printedSize(selector string) float64 {
	p.t.Helper()
	media := func(kind string) {
		_, err := chromedp.Call(p.ctx, emulation.SetEmulatedMedia, emulation.SetEmulatedMediaParams{Media: kind})
		if err != nil {
			p.t.Fatal(err)
		}
	}
	media("print")
	defer media("")
	return value[float64](p, fmt.Sprintf(
		`(e => parseFloat(getComputedStyle(e).fontSize) * e.currentCSSZoom)(document.querySelector(%q))`, selector))
}

// picture takes a PNG of what the screen shows.
func (p *page) picture(name string) {
	p.t.Helper()
	png, err := chromedp.Run(p.ctx, chromedp.CaptureScreenshot())
	if err != nil {
		p.t.Fatal(err)
	}
	if err := os.WriteFile(name, png, 0o644); err != nil {
		p.t.Fatal(err)
	}
}
