package e2e

import (
	"fmt"
	"net/http"
	"net/http/httptest"
	"os"
	"sync/atomic"
	"testing"
)

// A worker that keeps the application on the device installs a build whole or not at all,
// and never answers with pieces of two: of the second build one piece cannot be fetched at
// first, and the page of the first goes on opening without a server.
func TestTheWorkerInstallsABuildWhole(t *testing.T) {
	worker, err := os.ReadFile("../web/public/worker.js")
	if err != nil {
		t.Fatal(err)
	}
	var build atomic.Int32
	var away atomic.Bool
	build.Store(1)
	serve := func(w http.ResponseWriter, r *http.Request) {
		n := build.Load()
		switch {
		case away.Load():
			panic(http.ErrAbortHandler)
		case r.URL.Path == "/worker.js":
			w.Header().Set("Content-Type", "text/javascript")
			_, _ = w.Write(worker)
		case r.URL.Path == "/":
			w.Header().Set("Content-Type", "text/html")
			fmt.Fprintf(w, `<p id=page>page %d</p><p id=piece></p><script type=module src="/assets/index-b%d.js"></script>`, n,
				n)
		case r.URL.Path == fmt.Sprintf("/assets/index-b%d.js", n):
			w.Header().Set("Content-Type", "text/javascript")
			fmt.Fprintf(w,
				`fetch('/assets/piece.js').then(r => r.text()).then(t => document.querySelector('#piece').innerText = t)`)
		case r.URL.Path == "/assets/piece.js":
			fmt.Fprintf(w, "piece %d", n)
		default:
			http.NotFound(w, r)
		}
	}
	host := httptest.NewServer(http.HandlerFunc(serve))
	defer host.Close()
	p := newPage(t, host.Listener.Addr().String())
	install := func(piece string) bool {
		value[bool](p, fmt.Sprintf(`(() => {
			window.kept = undefined
			void (async () => {
				await navigator.serviceWorker.register('/worker.js')
				const { active } = await navigator.serviceWorker.ready
				const channel = new MessageChannel()
				channel.port1.onmessage = (e) => (window.kept = e.data)
				active.postMessage(['/assets/index-b%d.js', %q], [channel.port2])
			})()
			return true
		})()`, build.Load(), piece))
		p.until(`window.kept !== undefined`)
		return value[bool](p, `window.kept`)
	}
	p.open("/")
	p.sees("#page", "page 1")
	if install("/assets/missing.js") {
		t.Error("a build of which a piece is missing is told as kept")
	}
	if !install("/assets/piece.js") {
		t.Error("a whole build is told as not kept")
	}
	build.Store(2)
	p.open("/")
	p.sees("#page", "page 2")
	if !install("/assets/missing.js") {
		t.Error("the first build was given up before the second was whole")
	}
	away.Store(true)
	p.open("/")
	p.sees("#page", "page 1")
	p.sees("#piece", "piece 1")
	away.Store(false)
	p.open("/")
	p.sees("#page", "page 2")
	if !install("/assets/piece.js") {
		t.Error("the second build is not kept")
	}
	away.Store(true)
	p.open("/")
	p.sees("#page", "page 2")
	p.sees("#piece", "piece 2")
}
