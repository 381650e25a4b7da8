package e2e

import (
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/pquerna/otp/totp"
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
	p.click("[data-test=audit] summary")
	p.sees("[data-test=audit]", "person added")
	other := newPage(t, theStage.address)
	other.do(chromedp.Navigate(link))
	other.typed("New password, at least 10 characters", "aaaaaaaaaa")
	other.button("Set it")
	other.sees("[role=alert]", "guessed first")
	other.fill("New password, at least 10 characters", "gravel otter lantern nine")
	other.until(`location.pathname === '/sign-in'`)
	other.typed("E-mail address", "sunniva@brakkwater.example")
	other.fill("Password", "gravel otter lantern nine")
	other.until(`location.pathname === '/jobs'`)
	// A hand sees no prices and no client, and is offered no shelf.
	other.openJob("Baggage hall")
	other.click("[data-step=kits]")
	other.sees("main", "Baggage hall")
	if text := value[string](other, `document.body.innerText`); strings.Contains(text, "€") || strings.Contains(text, "Shelf") {
		t.Error("a hand sees a price, or the shelf")
	}
	other.look("hand-kits")
	other.open("/account")
	other.typed("Your password", "gravel otter lantern nine")
	other.button("Set up a second factor")
	other.sees("[data-test=factor]", "Scan this")
	other.look("factor")
	secret := strings.ReplaceAll(value[string](other, `document.querySelector('[data-test=secret]').textContent.trim()`), " ", "")
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
	recovery := value[string](other, `document.querySelector('[data-test=recovery] code').textContent`)
	other.look("factor-set")
	other.button("Sign out")
	other.until(`location.pathname === '/sign-in'`)
	other.typed("E-mail address", "sunniva@brakkwater.example")
	other.fill("Password", "gravel otter lantern nine")
	other.sees("[role=alert]", "Enter the code")
	other.look("sign-in-code")
	other.fill("Code of your second factor", recovery)
	other.until(`location.pathname === '/jobs'`)
	// Their device is lost: the owner takes the factor away, and they are signed out.
	p.open("/people")
	p.click("[aria-label='Remove the second factor of Sunniva Rask, whose device is lost']")
	p.until(`!document.querySelector("[aria-label='Remove the second factor of Sunniva Rask, whose device is lost']")`)
	p.sees("[data-test=company-data]", "are kept: photographs")
	p.do(chromedp.ScrollIntoView(chromedp.CSS("[data-test=company-data]")))
	p.look("people")
}
