package e2e
import ("testing";"os";"github.com/chromedp/chromedp")
func (p *tab) look(name string) { var b []byte; p.rest(); p.do(chromedp.CaptureScreenshot(&b)); os.WriteFile("/tmp/"+name+".png", b, 0o644) }
func TestZZLook(t *testing.T) {
	_, h := loops(t, 104, "")
	p := h.tab
	p.key("S")
	p.look("a1")
	p.key("z")
	p.until(`document.querySelectorAll("[aria-label^='Number ']").length > 3`)
	p.look("a2")
	p.key("Escape")
	p.until(`!document.querySelector("[role=dialog]")`)
	p.do(chromedp.Click(`//button[starts-with(normalize-space(.), "Groove")]`, chromedp.BySearch))
	p.until(`document.querySelector("[aria-label='Groove template']")`)
	p.look("a3")
	p.key("Escape")
	p.press("Fill Low")
	p.rest()
	p.until(`document.querySelector("form[aria-label='Rhythm of Low']")`)
	p.look("a4")
}

func TestZZTablet(t *testing.T) {
	_, h := tablet(t)
	p := h.tab
	t.Log(eval[bool](p, `matchMedia("(pointer: coarse)").matches`))
	p.look("t1")
	p.key("O")
	p.until(`document.querySelector("[data-testid=bands]")`)
	p.look("t2")
}
