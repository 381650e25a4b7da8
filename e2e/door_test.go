package e2e

import (
	"bytes"
	"encoding/base64"
	"net/http"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/pquerna/otp/totp"

	"nephelon/core/measure"
	"nephelon/demo"
	"nephelon/server/sessions"
	"nephelon/store"
)

// Somebody new is given a link and sets their own password; a common one is refused. They find
// no prices, and sign in with a second factor once they have set one up.
func TestAPasswordIsSetByALink(t *testing.T) {
	p := newPage(t, theStage.address)
	p.signIn("runa@brakkwater.example")
	p.open("/people")
	p.typed("Name", "Sunniva Rask")
	p.typed("E-mail address", "sunniva@brakkwater.example")
	p.button("Add")
	p.sees("[data-test=link]", "/set-password#")
	link := value[string](p, `document.querySelector('[data-test=link] code').textContent.trim()`)
	p.click("[data-test=audit] [aria-expanded]")
	p.sees("[data-test=audit]", "person added")
	other := newPage(t, theStage.address)
	other.do(chromedp.Navigate(link))
	other.typed("New password, at least 12 characters", "aaaaaaaaaaaaaa")
	other.button("Set the password")
	other.sees("[role=alert]", "easy to guess")
	other.fill("New password, at least 12 characters", "gravel otter lantern nine")
	other.until(`location.pathname === '/sign-in'`)
	other.typed("E-mail address", "sunniva@brakkwater.example")
	other.fill("Password", "gravel otter lantern nine")
	other.until(`location.pathname === '/jobs'`)
	// A hand sees no prices and no client, and is offered no shelf.
	other.openJob("Baggage hall")
	other.click("[data-step=kits]")
	other.sees("#kits", "Product")
	for line := range strings.Lines(value[string](other, `document.body.innerText`)) {
		if strings.Contains(line, "€") || strings.Contains(line, "Shelf") {
			t.Errorf("a hand sees a price, or the shelf: %q on %s", line, value[string](other, `location.pathname`))
		}
	}
	other.look("hand-kits")
	other.open("/account")
	other.typed("Your password", "gravel otter lantern nine")
	other.button("Set up a second factor")
	other.sees("[data-test=factor]", "Scan this")
	other.look("factor")
	secret := strings.ReplaceAll(value[string](other, `document.querySelector('[data-test=secret]').textContent.trim()`),
		" ", "")
	code := func(away time.Duration) string {
		text, err := totp.GenerateCode(secret, time.Now().Add(away))
		if err != nil {
			t.Fatal(err)
		}
		return text
	}
	other.typed("Code that it shows", code(0))
	other.button("Set it up")
	other.sees("[data-test=recovery]", "Keep these recovery codes")
	// What this device could not send yet is not left behind unasked.
	other.until(`(() => {
		const me = JSON.parse(localStorage.getItem('nephelon.me')).id
		window.left ??= new Promise((done, failed) => {
			const asked = indexedDB.open('nephelon', 1)
			asked.onupgradeneeded = () => asked.result.createObjectStore('edits')
			asked.onerror = failed
			asked.onsuccess = () => {
				const change = asked.result.transaction('edits', 'readwrite')
				change.objectStore('edits').put({ base: 1, from: '{}', file: '{}', saveId: 'x' }, me + '/some-job')
				change.oncomplete = () => { asked.result.close(); window.leftThere = true; done() }
			}
		})
		return window.leftThere === true
	})()`)
	recovery := value[string](other, `document.querySelector('[data-test=recovery] code').textContent`)
	other.look("factor-set")
	other.button("Sign out")
	other.sees("[data-test=unsent]", "One entry was not sent yet")
	other.look("sign-out")
	other.button("Discard them and sign out")
	other.until(`location.pathname === '/sign-in'`)
	other.typed("E-mail address", "sunniva@brakkwater.example")
	other.fill("Password", "gravel otter lantern nine")
	other.sees("[role=alert]", "Enter the code")
	other.look("sign-in-code")
	other.fill("Code of the second factor", recovery)
	other.until(`location.pathname === '/jobs'`)
	// Their device is lost: the owner takes the factor away, and they are signed out.
	p.open("/people")
	p.click("[aria-label='Remove the second factor of Sunniva Rask, whose device is lost']")
	p.until(`!document.querySelector("[aria-label='Remove the second factor of Sunniva Rask, whose device is lost']")`)
	p.sees("[data-test=company-data]", "are stored: photographs")
	p.scroll("[data-test=company-data]")
	p.look("people")
}

// A backup taken while people work is brought into an empty database, and people go on there;
// a company's archive is brought into a new one through the interface.
func TestABackupIsRestored(t *testing.T) {
	ctx := t.Context()
	if _, err := theStage.records.DB().ExecContext(ctx, "create database restored"); err != nil {
		t.Fatal(err)
	}
	address, err := url.Parse(theStage.records.URL())
	if err != nil {
		t.Fatal(err)
	}
	address.Path = "/restored"
	empty, err := store.Open(ctx, address.String())
	if err != nil {
		t.Fatal(err)
	}
	defer empty.Close()
	p := newPage(t, theStage.address)
	p.signIn("runa@brakkwater.example")
	p.newJob("Hawser loft")
	p.rectangle("5 m", "4 m")
	p.saved()
	var file bytes.Buffer
	if _, err := theStage.records.Backup(ctx, &file); err != nil {
		t.Fatal(err)
	}
	if _, err := empty.Restore(ctx, &file); err != nil {
		t.Fatal(err)
	}
	hash, err := sessions.HashPassword(demo.Password)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := empty.Found(ctx, "Sandbar Surfaces", store.Person{Name: "Ulrike Brandt", Email: "ulrike@sandbar.example",
		Role: store.Owner, PasswordHash: hash, Units: measure.Metric}); err != nil {
		t.Fatal(err)
	}
	h, err := startHostOn(empty, "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	defer h.stop()
	there := newPage(t, h.address)
	there.signIn("runa@brakkwater.example")
	there.openJob("Hawser loft")
	there.sees("[data-test=area]", "20 m²")
	there.open("/people")
	there.sees("[data-test=company-data]", "are stored")
	archive := filepath.Join(t.TempDir(), "all.zip")
	// An open session alone takes nothing along: the password is asked for once more.
	if status := value[int](there,
		`(() => { const r = new XMLHttpRequest(); r.open('GET', '/api/company/archive', false); r.send(); return r.status })()`); status != http.StatusForbidden {
		t.Errorf("without the password: %d", status)
	}
	there.until(`(window.asked ??= fetch('/api/me/confirmation', { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify({ password: '` + demo.Password + `' }) })
		.then(() => fetch('/api/company/archive')).then(r => r.arrayBuffer())
		.then(b => { window.archive = btoa(Array.from(new Uint8Array(b), c => String.fromCharCode(c)).join('')) })) && window.archive !== undefined`)
	text := value[string](there, `window.archive`)
	content, err := base64.StdEncoding.DecodeString(text)
	if err != nil {
		t.Fatal(err)
	}
	if err := os.WriteFile(archive, content, 0o600); err != nil {
		t.Fatal(err)
	}
	fresh := newPage(t, h.address)
	fresh.signIn("ulrike@sandbar.example")
	fresh.open("/people")
	fresh.sees("[data-test=company-data]", "are stored")
	fresh.upload("[data-test=company-data] input[type=file]", archive)
	fresh.sees("[data-test=company-data]", "The archive is imported")
	fresh.open("/jobs")
	fresh.openJob("Hawser loft")
	fresh.sees("[data-test=area]", "20 m²")
}
