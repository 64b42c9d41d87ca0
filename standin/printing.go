package standin

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"time"

	"oddspool/core/measure"
	"oddspool/core/stock"
	"oddspool/internal/press/pwg"
)

// work prints one job after the other.
func (p *Printer) work(ctx context.Context) {
	defer close(p.done)
	for {
		p.mutex.Lock()
		j, changed := p.next(), p.changed
		p.mutex.Unlock()
		if j == nil {
			select {
			case <-ctx.Done():
				return
			case <-changed:
			}
			continue
		}
		err := p.printJob(ctx, j)
		if ctx.Err() != nil {
			return
		}
		p.mutex.Lock()
		if !j.State.over() {
			if err != nil {
				p.end(j, aborted, "The document cannot be printed: "+err.Error())
			} else {
				p.end(j, completed, "")
			}
		}
		p.mutex.Unlock()
	}
}

// next returns the oldest job that waits.
func (p *Printer) next() *job {
	var first *job
	for _, j := range p.open {
		if j.State == pending && (first == nil || j.ID < first.ID) {
			first = j
		}
	}
	if first != nil {
		first.State, first.Began = processing, time.Now()
		p.note(first)
	}
	return first
}

func (p *Printer) printJob(ctx context.Context, j *job) error {
	file, err := os.Open(j.spool)
	if err != nil {
		return err
	}
	defer file.Close()
	next := pwg.NewReader(file).Next
	if j.Format == jpegFormat {
		next = p.picture(file)
	}
	if j.Format == pdfFormat || j.Format == svgFormat {
		if next, err = p.plot(ctx, j.spool, j.Format); err != nil {
			return err
		}
	}
	for {
		page, err := next()
		if errors.Is(err, io.EOF) {
			return nil
		}
		if err != nil {
			return err
		}
		w, h := page.Layers.Size()
		if most := p.config.Printer.HeadDots * p.faces(); w > most {
			return fmt.Errorf("the page is %d dots wide and the head has %d", w, most)
		}
		if !p.ready(ctx, j) {
			return ctx.Err()
		}
		p.mutex.Lock()
		if p.fault != Feigning || !p.feigned {
			p.feigned = p.fault == Feigning
			err = p.web.print(j.ID, j.printed+1, page, p.config.Printer.Resolution)
		}
		if err == nil {
			j.printed++
		}
		p.mutex.Unlock()
		if err != nil {
			return err
		}
		if !p.feed(ctx, j, h) {
			return ctx.Err()
		}
	}
}

// faces returns how many heads print side by side: one for each face of a sleeve.
func (p *Printer) faces() int {
	p.mutex.Lock()
	defer p.mutex.Unlock()
	return p.stock.Faces()
}

// ready waits until the printer can print the next label of a job; false when it is not wanted
// any more.
func (p *Printer) ready(ctx context.Context, j *job) bool {
	for {
		p.mutex.Lock()
		if p.fault == NoFault && p.web.left() == 0 {
			p.setFault(MediaEmpty)
		}
		over, fault, changed := j.State.over(), p.fault, p.changed
		if !over {
			p.needed = !p.fits(j)
			state := processing
			if fault != NoFault && !fault.secret() || p.needed {
				state = processingStopped
			}
			if j.State != state {
				j.State = state
				p.note(j)
				changed = p.changed
			}
		}
		needed := p.needed
		p.mutex.Unlock()
		if over || ctx.Err() != nil {
			return false
		}
		if (fault == NoFault || fault == Feigning) && !needed {
			return true
		}
		select {
		case <-ctx.Done():
			return false
		case <-changed:
		}
	}
}

// fits tells whether what is loaded has the size of page that a job is for.
func (p *Printer) fits(j *job) bool {
	const tolerance = 300 * measure.Micrometre
	near := func(a, b measure.Length) bool { return a-b <= tolerance && b-a <= tolerance }
	width, length := p.stock.PageSize()
	return j.Width == 0 || near(j.Width, width) && (p.stock.Unit() == stock.InLength || near(j.Length, length))
}

// feed takes the time that a page of so many dots and the gap after it need.
func (p *Printer) feed(ctx context.Context, j *job, height int) bool {
	p.mutex.Lock()
	speed := p.speed
	if speed > 0 && j.Speed > 0 {
		speed = min(speed, j.Speed)
	}
	way := (p.config.Printer.Resolution.Length(height) + p.stock.Gap).Millimetres()
	p.mutex.Unlock()
	if speed == 0 {
		return ctx.Err() == nil
	}
	timer := time.NewTimer(time.Duration(way / float64(speed) * float64(time.Second)))
	defer timer.Stop()
	select {
	case <-ctx.Done():
		return false
	case <-timer.C:
		return true
	}
}

// Folder returns where the printer keeps what came out.
func (p *Printer) Folder() string { return p.folder }
