package e2e

import (
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/launcher"
	"github.com/go-rod/rod/lib/proto"
	"github.com/go-rod/rod/lib/utils"
)

// Browser is headless Chromium from Debian.
type Browser struct{ *rod.Browser }

// OpenBrowser starts one: the shell, which draws pages and no window round them. It
// talks to nobody but the pages it is given.
func OpenBrowser() (*Browser, error) {
	url, err := launcher.New().Bin("/usr/bin/chromium-headless-shell").Headless(true).NoSandbox(true).
		Set("disable-gpu").
		Set("disable-background-networking").
		Set("disable-component-update").Set("disable-sync").Set("no-first-run").Set("disable-quic").
		// Several people work at once: no window is put to sleep behind another.
		Set("disable-background-timer-throttling").
		Set("disable-renderer-backgrounding").Set("disable-backgrounding-occluded-windows").
		Launch()
	if err != nil {
		return nil, fmt.Errorf("chromium: %w", err)
	}
	b := rod.New().ControlURL(url)
	return &Browser{b}, b.Connect()
}

// Person is somebody at a screen. Methods wait up to a minute for what they
// need and end the test when it does not come, by rod's Must.
type Person struct {
	*rod.Page
	Session
}

// SignIn opens a private window and signs in.
func (b *Browser) SignIn(base, login string) *Person {
	p := b.Visit(base)
	p.SignIn(login)
	return p
}

// Visit opens a private window without signing in.
func (b *Browser) Visit(base string) *Person {
	page := b.MustIncognito().MustPage(base).Timeout(20 * time.Minute).Sleeper(func() utils.Sleeper {
		return utils.BackoffSleeper(20*time.Millisecond, 100*time.Millisecond, nil)
	})
	page.MustSetViewport(1280, 800, 1, false)
	p := at(page, base, func(why any) { panic(why) })
	p.within().MustElement("main")
	return p
}

// at is somebody at a page, until ends is called with what went wrong. The page behaves
// as the one in front, whichever of the others is: one that comes to the front reads
// everything again.
func at(page *rod.Page, base string, ends func(any)) *Person {
	page = page.WithPanic(ends)
	if err := (proto.EmulationSetFocusEmulationEnabled{Enabled: true}).Call(page); err != nil {
		ends(err)
	}
	return &Person{page, Session{page, base, ends}}
}

// SignIn types name and password, and presses again when a crowded machine asks for it.
func (p *Person) SignIn(login string) {
	p.write(p.within().MustElement("input[name=login]"), login)
	p.write(p.within().MustElement("input[name=password]"), Password)
	const answered = `() => !document.querySelector('input[name=login]') || !!document.querySelector('[role=alert]')`
	for range 5 {
		p.Press("Sign in")
		p.wait("an answer to the sign-in", answered)
		if p.MustEval(`() => !document.body.innerText.includes('try again in a moment')`).Bool() {
			break
		}
		time.Sleep(time.Second)
	}
	p.Role("button", "Sign out")
}

// within is a page whose waits end after a minute: a busy machine takes its time.
func (p *Person) within() *rod.Page { return p.Page.Timeout(time.Minute) }

// wait ends the test with what the page said instead, when the condition does
// not come true.
func (p *Person) wait(what, js string, args ...any) {
	if err := p.within().Wait(rod.Eval(js, args...).ByPromise()); err != nil {
		p.fail(what, err)
	}
}

// find waits for an element; the script gives nothing until it is there.
func (p *Person) find(what, js string, args ...any) *rod.Element {
	e, err := p.within().ElementByJS(rod.Eval("(...args) => ("+js+").apply(this, args) ?? null", args...))
	if err != nil {
		p.fail(what, err)
	}
	return e
}

// click finds and clicks. A page that redraws in between takes the element
// away or moves it from under the pointer, and then it is found anew.
func (p *Person) click(what, js string, args ...any) {
	var err error
	for range 10 {
		e := p.find(what, js, args...)
		_, _ = e.Eval(
			`() => this.addEventListener('click', () => { this.wasHit = true }, { once: true, capture: true })`,
		)
		if err = e.Timeout(time.Second).Click(proto.InputMouseButtonLeft, 1); err == nil {
			// An element that went with its page was hit too.
			if hit, gone := e.Eval(`() => this.wasHit === true`); gone != nil || hit.Value.Bool() {
				return
			}
			err = errors.New("the click went elsewhere")
		}
		time.Sleep(50 * time.Millisecond)
	}
	p.fail(what, err)
}

// Role waits until something with this role is there by this name, or by one that begins so.
func (p *Person) Role(role, name string) {
	p.wait("the "+role+" "+name, `(role, name) => {
		const by = {
			heading: 'h1, h2, h3', button: 'button', link: 'a[href]', option: '[role=option]', radio: '[role=radio]',
		};
		const called = e => (e.ariaLabel ?? e.innerText).replace(/\s+/g, ' ').trim();
		return [...document.querySelectorAll(by[role])].some(e => called(e).startsWith(name));
	}`, role, name)
}

// See waits until the words stand on the page: for what a page says, not for where one is.
func (p *Person) See(words string) {
	p.wait(fmt.Sprintf("%q", words), `words => document.body.innerText.includes(words)`, words)
}

// SeeNot waits until the words are gone.
func (p *Person) SeeNot(words string) {
	p.wait(fmt.Sprintf("the end of %q", words), `words => !document.body.innerText.includes(words)`, words)
}

// Press clicks the first usable button or link that begins with the words.
func (p *Person) Press(words string) {
	const find = `words => [...document.querySelectorAll('button, a')].find(b =>
		!b.matches(':disabled, [aria-disabled=true]') && b.innerText.trim().startsWith(words)) ?? null`
	p.wait("a button "+words, `words => (`+find+`)(words) !== null`, words)
	p.click(words, find, words)
}

// recorded is how many entries the rebuild on the screen has on record.
func (p *Person) recorded() int {
	at := strings.Split(p.MustInfo().URL, "/") // scheme, "", host, rebuilds, id
	if len(at) < 5 {
		return 0
	}
	return p.sheetOf("/rebuilds/" + at[4]).Rebuild.Head.Seq
}

// Recording does something and waits until it is on record. What a screen
// shows may be there already, or not yet; the record is what counts.
func (p *Person) Recording(what string, do func()) {
	before := p.recorded()
	do()
	for until := time.Now().Add(time.Minute); p.recorded() <= before; time.Sleep(30 * time.Millisecond) {
		if time.Now().After(until) {
			p.fail("the entry of "+what, errors.New("nothing new is on record"))
		}
	}
}

// Type replaces what stands in the field with this label.
func (p *Person) Type(label, text string) {
	p.write(p.Field(label), text)
}

// write replaces what stands in a field, as one stroke of the keyboard would.
func (p *Person) write(field *rod.Element, text string) {
	_, err := field.Eval(`() => { this.focus(); this.select(); }`)
	if err == nil && text == "" {
		err = p.Keyboard.Type(input.Delete)
	} else if err == nil {
		err = p.InsertText(text)
	}
	if err != nil {
		p.fail(text, err)
	}
}

// Field finds an input by its label.
func (p *Person) Field(label string) *rod.Element {
	return p.find("a field "+label, `label => {
		const byLabel = [...document.querySelectorAll('label')].find(l =>
			l.innerText.trim().startsWith(label) && !l.closest('fieldset:disabled'));
		return (byLabel && (byLabel.control || document.getElementById(byLabel.htmlFor))) ||
			document.querySelector('[aria-label^="' + label + '"]');
	}`, label)
}

// Pick looks something up on a line and takes what is offered by these words.
func (p *Person) Pick(line, typed, offered string) {
	p.Type(line, typed)
	p.wait(
		"the offer "+offered,
		`words => [...document.querySelectorAll('[role=option]')].some(o => o.innerText.includes(words))`,
		offered,
	)
	const at = `words => document.querySelector('[role=option][data-focus]')?.innerText.includes(words) ?? false`
	for !p.MustEval(at, offered).Bool() {
		p.press(input.ArrowDown)
	}
	p.Enter()
}

// Offered waits until something is offered for what was typed.
func (p *Person) Offered() {
	p.wait("an offer", `() => document.querySelectorAll('[role=option]').length > 1`)
}

// Choose marks one of a few choices.
func (p *Person) Choose(id string) {
	p.click(
		"the choice "+id,
		`id => [...document.querySelectorAll('[role=radio][data-id]:not([aria-disabled=true])')]
			.find(r => r.dataset.id === id) ?? null`,
		id,
	)
}

// button finds the usable button of an act, and of an outcome when there is one.
const button = `(name, value) => [...document.querySelectorAll('button[name="' + name + '"]')]
	.filter(b => b.matches(':enabled:not([aria-disabled=true])')).find(b => value === '' || b.value === value) ?? null`

// Do presses the button of an act and waits until the act is on record.
func (p *Person) Do(act, outcome string) {
	p.Recording(act+" "+outcome, func() { p.click("the button to say "+act+" "+outcome, button, act, outcome) })
}

// Enter presses Enter where the focus is.
func (p *Person) Enter() { p.Keyboard.MustType(input.Enter) }

// press types one key where the focus is.
func (p *Person) press(keys ...input.Key) { p.Keyboard.MustType(keys...) }

// Go opens a path.
func (p *Person) Go(path string) {
	p.within().MustNavigate(p.base + path).MustWaitLoad()
	p.within().MustElement("main")
}

// Picture writes what the screen shows, as PNG bytes.
func (p *Person) Picture(width, height int) ([]byte, error) {
	p.MustSetViewport(width, height, 1, false)
	time.Sleep(700 * time.Millisecond) // a move that is being shown comes to rest
	return p.Screenshot(false, &proto.PageCaptureScreenshot{Format: proto.PageCaptureScreenshotFormatPng})
}
