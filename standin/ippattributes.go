package standin

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"oddspool/core/measure"
	"oddspool/core/stock"
	"oddspool/internal/press/ipp"
	"oddspool/internal/press/pwg"
)

// jobAttributes returns all about a job; the caller holds the mutex. The first five are what a
// new job is answered with.
func (p *Printer) jobAttributes(j *job, host string) []ipp.Attribute {
	reason := map[jobState]string{pending: "none", held: "job-incoming", processing: "job-printing",
		processingStopped: "printer-stopped",
		canceled:          "job-canceled-by-user", aborted: "aborted-by-system",
		completed: "job-completed-successfully"}[j.State]
	at := func(name string, t time.Time) ipp.Attribute {
		if t.IsZero() {
			return ipp.Attr(name, ipp.Value{Tag: ipp.NoValue})
		}
		return ipp.Attr(name, ipp.Int(ipp.Integer, max(int(t.Sub(p.started).Seconds()), 0)))
	}
	return []ipp.Attribute{
		ipp.Attr("job-id", ipp.Int(ipp.Integer, j.ID)),
		ipp.Attr("job-uri", ipp.Str(ipp.URI, fmt.Sprintf("ipp://%s/ipp/print/%d", host, j.ID))),
		ipp.Attr("job-state", ipp.Int(ipp.Enum, int(j.State))),
		ipp.Keywords("job-state-reasons", reason),
		ipp.Attr("job-state-message", ipp.Str(ipp.Text, j.Message)),
		ipp.Attr("job-printer-uri", ipp.Str(ipp.URI, "ipp://"+host+"/ipp/print")),
		ipp.Attr("job-name", ipp.Str(ipp.Name, j.Name)),
		ipp.Attr("job-originating-user-name", ipp.Str(ipp.Name, j.User)),
		ipp.Attr("job-impressions-completed", ipp.Int(ipp.Integer, j.printed)),
		ipp.Attr("job-media-sheets-completed", ipp.Int(ipp.Integer, j.printed)),
		at("time-at-creation", j.Created),
		at("time-at-processing", j.Began),
		at("time-at-completed", j.Ended),
		ipp.Attr("job-printer-up-time", ipp.Int(ipp.Integer, p.upTime())),
	}
}

func (p *Printer) upTime() int { return int(time.Since(p.started).Seconds()) + 1 }

// attributes returns all about the printer (RFC 8011, 5.4; PWG 5100.3, 5100.7 and 5100.13).
func (p *Printer) attributes(host string) []ipp.Attribute {
	p.mutex.Lock()
	defer p.mutex.Unlock()
	state, reasons, message := p.state()
	uri := "ipp://" + host + "/ipp/print"
	r := p.config.Printer.Resolution
	resolution := ipp.Value{Tag: ipp.Resolution, Ints: [3]int{int(r.PerInch() + 0.5), int(r.PerInch() + 0.5), 3}}
	media := p.media()
	width, length := p.stock.PageSize()
	name := fmt.Sprintf("custom_%s_%gx%gmm", strings.ToLower(strings.ReplaceAll(p.stock.Number, " ", "-")),
		width.Millimetres(), length.Millimetres())
	formats := ipp.Attribute{Name: "document-format-supported"}
	for _, format := range p.formats() {
		formats.Values = append(formats.Values, ipp.Str(ipp.MIMEType, format))
	}
	attributes := []ipp.Attribute{
		ipp.Attr("charset-configured", ipp.Str(ipp.Charset, "utf-8")),
		ipp.Attr("charset-supported", ipp.Str(ipp.Charset, "utf-8"), ipp.Str(ipp.Charset, "us-ascii")),
		ipp.Keywords("compression-supported", "none", "gzip", "deflate"),
		ipp.Attr("copies-default", ipp.Int(ipp.Integer, 1)),
		ipp.Attr("copies-supported", ipp.Value{Tag: ipp.Range, Ints: [3]int{1, 1}}),
		ipp.Attr("document-format-default", ipp.Str(ipp.MIMEType, p.formats()[0])),
		formats,
		ipp.Attr("generated-natural-language-supported", ipp.Str(ipp.Language, "en")),
		ipp.Keywords("ipp-versions-supported", "1.1", "2.0"),
		ipp.Keywords("job-creation-attributes-supported", "job-name", "copies", "media-col", "print-darkness",
			"print-speed", "finishings"),
		ipp.Keywords("media-col-supported", "media-size", "media-tracking", "media-top-offset", "media-type",
			"media-key", "media-info"),
		ipp.Keywords("media-default", name),
		ipp.Keywords("media-ready", name),
		ipp.Keywords("media-supported", name),
		ipp.Attr("media-col-default", media),
		ipp.Attr("media-col-ready", media),
		ipp.Keywords("media-tracking-supported", "continuous", "gap", "mark", "web"),
		ipp.Attr("multiple-document-jobs-supported", ipp.Int(ipp.Boolean, 0)),
		ipp.Attr("natural-language-configured", ipp.Str(ipp.Language, "en")),
		ipp.Attr("operations-supported", ipp.Int(ipp.Enum, int(ipp.PrintJob)), ipp.Int(ipp.Enum, int(ipp.ValidateJob)),
			ipp.Int(ipp.Enum, int(ipp.CreateJob)), ipp.Int(ipp.Enum, int(ipp.SendDocument)),
			ipp.Int(ipp.Enum, int(ipp.CancelJob)),
			ipp.Int(ipp.Enum, int(ipp.GetJobAttributes)), ipp.Int(ipp.Enum, int(ipp.GetJobs)),
			ipp.Int(ipp.Enum, int(ipp.GetPrinterAttributes)),
			ipp.Int(ipp.Enum, int(ipp.CancelMyJobs)), ipp.Int(ipp.Enum, int(ipp.CloseJob)),
			ipp.Int(ipp.Enum, int(ipp.IdentifyPrinter))),
		ipp.Keywords("pdl-override-supported", "attempted"),
		ipp.Attr("printer-info", ipp.Str(ipp.Text, p.config.Printer.Name)),
		ipp.Attr("printer-input-tray", ipp.Str(ipp.OctetString, p.tray())),
		ipp.Attr("printer-is-accepting-jobs", ipp.Int(ipp.Boolean, 1)),
		ipp.Attr("printer-location", ipp.Str(ipp.Text, "Brinewick Kelp Works")),
		ipp.Attr("printer-make-and-model", ipp.Str(ipp.Text, "Odd Spool stand-in label printer")),
		ipp.Attr("printer-more-info", ipp.Str(ipp.URI, "http://"+host+"/")),
		ipp.Attr("printer-name", ipp.Str(ipp.Name, p.config.Printer.Name)),
		ipp.Attr("printer-resolution-default", resolution),
		ipp.Attr("printer-resolution-supported", resolution),
		ipp.Attr("printer-state", ipp.Int(ipp.Enum, state)),
		ipp.Attr("printer-state-message", ipp.Str(ipp.Text, message)),
		ipp.Keywords("printer-state-reasons", reasons...),
		ipp.Attr("printer-up-time", ipp.Int(ipp.Integer, p.upTime())),
		ipp.Attr("printer-uri-supported", ipp.Str(ipp.URI, uri)),
		ipp.Attr("pwg-raster-document-resolution-supported", resolution),
		ipp.Keywords("pwg-raster-document-type-supported", string(p.rasterType())),
		ipp.Attr("print-darkness-supported", ipp.Int(ipp.Integer, 100)),
		ipp.Attr("media-size-supported", ipp.Members(
			ipp.Attr("x-dimension", ipp.Value{Tag: ipp.Range,
				Ints: [3]int{200, int(p.config.Printer.HeadWidth() / 10)}}),
			ipp.Attr("y-dimension", ipp.Value{Tag: ipp.Range,
				Ints: [3]int{200, int(p.config.Printer.LongestLabel() / 10)}}))),
		p.supplies(),
		p.finishings(),
		ipp.Attr("queued-job-count", ipp.Int(ipp.Integer, len(p.open))),
		ipp.Keywords("uri-authentication-supported", "none"),
		ipp.Keywords("uri-security-supported", "none"),
	}
	attributes = append(attributes, p.everywhere(host)...)
	if p.config.Printer.Speed > 0 {
		attributes = append(attributes, ipp.Attr("print-speed-supported", ipp.Value{Tag: ipp.Range,
			Ints: [3]int{p.config.Printer.SlowSpeed * 100, p.config.Printer.Speed * 100}}))
	}
	return attributes
}

// tray tells what is left (PWG 5100.13, 5.6.23), in the units of RFC 3805.
func (p *Printer) tray() string {
	unit, name := "items", "roll"
	switch p.stock.Unit() {
	case stock.InLength:
		unit = "micrometers"
	case stock.InSheets:
		unit = "sheets"
	}
	if p.stock.Flat() {
		name = "tray"
	}
	return fmt.Sprintf("type=other;mediafeed=0;mediaxfeed=0;maxcapacity=%d;level=%d;unit=%s;status=0;name=%s;",
		max(p.full(), p.stock.Pieces()), p.web.left(), unit, name)
}

// rasterType returns the type of PWG raster that is taken for the stock that is loaded.
func (p *Printer) rasterType() pwg.Type {
	switch inks := stock.Inks(p.stock, p.config.Printer); {
	case slices.Contains(inks, stock.Full):
		return pwg.SRGB
	case len(inks) > 1:
		return pwg.Device(len(inks))
	}
	return pwg.Black
}

// supplies tells what is printed with (PWG 5100.13, 5.6.35).
func (p *Printer) supplies() ipp.Attribute {
	a := ipp.Attribute{Name: "printer-supply"}
	for i, ink := range stock.Inks(p.stock, p.config.Printer) {
		a.Values = append(a.Values, ipp.Str(ipp.OctetString,
			fmt.Sprintf("index=%d;type=ribbonWax;colorantname=%s;level=-2;maxcapacity=-2;unit=percent;", i+1, ink)))
	}
	if a.Values == nil { // heat alone prints
		a.Values = []ipp.Value{ipp.Str(ipp.OctetString, "index=1;type=other;level=-2;maxcapacity=-2;unit=percent;")}
	}
	return a
}

// finishings tells whether it cuts (PWG 5100.1, 5.1.1): none, after each page, after the job.
func (p *Printer) finishings() ipp.Attribute {
	a := ipp.Attr("finishings-supported", ipp.Int(ipp.Enum, 3))
	if p.config.Printer.Cutter {
		a.Values = append(a.Values, ipp.Int(ipp.Enum, 60), ipp.Int(ipp.Enum, 63))
	}
	return a
}

// media tells what is loaded; sizes are hundredths of a millimetre (PWG 5100.3, 3.13; 5100.7, 6.3).
func (p *Printer) media() ipp.Value {
	hundredths := func(l measure.Length) ipp.Value { return ipp.Int(ipp.Integer, int(l/10)) }
	width, length := p.stock.PageSize()
	tracking := string(p.stock.Found())
	if tracking == string(stock.Notch) {
		tracking = "web"
	}
	return ipp.Members(
		ipp.Attr("media-size", ipp.Members(ipp.Attr("x-dimension", hundredths(width)),
			ipp.Attr("y-dimension", hundredths(length)))),
		ipp.Keywords("media-key", p.stock.Number),
		ipp.Attr("media-info", ipp.Str(ipp.Text, p.stock.Name)),
		ipp.Keywords("media-type", "labels"),
		ipp.Keywords("media-tracking", tracking),
		ipp.Attr("media-top-offset", hundredths(p.stock.Gap)),
	)
}

// state returns printer-state, its reasons and a sentence.
func (p *Printer) state() (state int, reasons []string, message string) {
	const idle, printing, stopped = 3, 4, 5
	switch p.fault {
	case CoverOpen:
		return stopped, []string{"cover-open-error"}, "The cover is open."
	case MediaEmpty:
		return stopped, []string{"media-empty-error"}, "The roll is empty."
	case RibbonEnd:
		return stopped, []string{"marker-supply-empty-error"}, "The ribbon has ended."
	case Jam:
		return stopped, []string{"media-jam-error"}, "Labels are jammed."
	case Paused:
		return stopped, []string{"paused"}, "Paused at the printer."
	}
	if p.needed {
		return stopped, []string{"media-needed-error"}, "Another stock is needed."
	}
	reasons = []string{"none"}
	if p.web.left() <= p.full()/20 {
		reasons = []string{"media-low-warning"}
	}
	for _, j := range p.open {
		if j.State == processing {
			return printing, reasons, "Printing."
		}
	}
	return idle, reasons, "Ready."
}
