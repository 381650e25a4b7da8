//go:build endure

package e2e

import (
	"fmt"
	"os"
	"strconv"
	"testing"
	"time"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/heapprofiler"
	"github.com/chromedp/cdproto/runtime"
	"github.com/chromedp/chromedp"
)

// A day at a job of ten hours at a hundred times its pace, without a network: what the page holds does not grow. Run it
// by hand, `go test -tags endure ./e2e -run TestTenHours -timeout 20m`; NEPHELON_PACE is another pace.
func TestTenHours(t *testing.T) {
	pace := 100
	if n, err := strconv.Atoi(os.Getenv("NEPHELON_PACE")); err == nil {
		pace = n
	}
	p := begin(t, "Ropewalk hall")
	p.at("measure")
	p.rectangle("14 m", "9 m")
	p.at("build-up")
	p.choose("Add a coat of", "Keelbody")
	p.choose("Add a coat of", "Keelbody")
	p.saved()
	p.click("[data-step=days]")
	p.opensTheDay()
	p.sent()
	p.until(`document.querySelector('header').innerText.includes('opens without a network')`)
	// No request reaches the server, and the clock of the device runs faster; what the page waits for does not.
	value[bool](p, fmt.Sprintf(`(() => {
		window.fetch = () => Promise.reject(new TypeError('no network'));
		const now = Date.now.bind(Date), began = now();
		const fast = () => began + (now() - began) * %d;
		window.Date = new Proxy(Date, {
			construct: (target, args) => new target(...(args.length ? args : [fast()])),
			get: (target, key) => (key === 'now' ? fast : target[key]),
		});
		return true;
	})()`, pace))
	held := func() (heap float64, nodes int) {
		t.Helper()
		for range 3 {
			if _, err := chromedp.Call(p.ctx, heapprofiler.CollectGarbage, cdp.Empty{}); err != nil {
				t.Fatal(err)
			}
		}
		usage, err := chromedp.Call(p.ctx, runtime.GetHeapUsage, cdp.Empty{})
		if err != nil {
			t.Fatal(err)
		}
		return usage.UsedSize, value[int](p, `document.querySelectorAll('*').length`)
	}
	pails := value[int](p, `document.querySelectorAll('[data-batch]').length`)
	hours := 10 * time.Hour / time.Duration(pace)
	var first float64
	for n := 0; n <= 10; n++ {
		time.Sleep(hours / 10)
		if n < pails {
			p.touch("meets")
			p.batchIs(n+1, "mixing")
		}
		heap, nodes := held()
		t.Logf("hour %d: %.1f MB, %d nodes", n, heap/1e6, nodes)
		switch {
		case n == 1: // by then all that is loaded once is there
			first = heap
		case n > 1 && heap > 1.15*first+2e6:
			t.Errorf("after %d hours the page holds %.1f MB; %.1f after the first", n, heap/1e6, first/1e6)
		}
	}
}
