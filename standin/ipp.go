package standin

import (
	"bufio"
	"compress/flate"
	"compress/gzip"
	"fmt"
	"io"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"oddspool/core/measure"
	"oddspool/core/stock"
	"oddspool/internal/press/ipp"
	"oddspool/internal/press/pwg"
)

const rasterFormat = "image/pwg-raster"

// serveIPP answers one IPP request (RFC 8010 over HTTP).
func (p *Printer) serveIPP(w http.ResponseWriter, r *http.Request) {
	if mime, _, _ := strings.Cut(r.Header.Get("Content-Type"), ";"); mime != "application/ipp" {
		http.Error(w, "this address takes IPP requests", http.StatusUnsupportedMediaType)
		return
	}
	body := bufio.NewReader(r.Body)
	request, err := ipp.Read(body)
	if err != nil {
		http.Error(w, err.Error(), http.StatusBadRequest)
		return
	}
	response := p.answer(request, body, r.Host)
	w.Header().Set("Content-Type", "application/ipp")
	_, _ = w.Write(response.Append(nil))
}

// An exchange is one request and what is being answered.
type exchange struct {
	request *ipp.Message
	body    io.Reader
	host    string
	groups  []ipp.Group
}

func (p *Printer) answer(request *ipp.Message, body io.Reader, host string) *ipp.Message {
	x := &exchange{request: request, body: body, host: host}
	status, message := p.operate(x)
	operation := ipp.Group{Tag: ipp.OperationGroup, Attributes: []ipp.Attribute{
		ipp.Attr("attributes-charset", ipp.Str(ipp.Charset, "utf-8")),
		ipp.Attr("attributes-natural-language", ipp.Str(ipp.Language, "en")),
	}}
	if message != "" {
		operation.Attributes = append(operation.Attributes, ipp.Attr("status-message", ipp.Str(ipp.Text, message)))
	}
	return &ipp.Message{Major: min(request.Major, 2), Minor: request.Minor, Code: uint16(status), ID: request.ID,
		Groups: append([]ipp.Group{operation}, x.groups...)}
}

func (p *Printer) operate(x *exchange) (ipp.Status, string) {
	if x.request.Major < 1 || x.request.Major > 2 {
		return ipp.VersionNotSupported, "IPP 1.1 and 2.0 are spoken here."
	}
	first := x.request.Groups
	if x.request.ID == 0 || len(first) == 0 || first[0].Tag != ipp.OperationGroup || len(first[0].Attributes) < 2 ||
		first[0].Attributes[0].Name != "attributes-charset" ||
		first[0].Attributes[1].Name != "attributes-natural-language" {
		return ipp.BadRequest, "A request begins with its charset and language (RFC 8011, 4.1.4)."
	}
	if charset := first[0].Attributes[0].Values[0].Text; charset != "utf-8" && charset != "us-ascii" {
		return ipp.CharsetNotSupported, "utf-8 is spoken here."
	}
	if x.text("printer-uri") == "" && x.text("job-uri") == "" { // RFC 8011, 4.1.5
		return ipp.BadRequest, "A request names its printer, or its job."
	}
	switch ipp.Op(x.request.Code) {
	case ipp.GetPrinterAttributes:
		x.add(ipp.PrinterGroup, p.attributes(x.host))
		return ipp.OK, ""
	case ipp.CloseJob:
		return p.closeJob(x)
	case ipp.CancelMyJobs:
		return p.cancelMine(x)
	case ipp.IdentifyPrinter: // it has neither lamp nor sound: its page says that it was asked
		p.identified()
		return ipp.OK, ""
	case ipp.ValidateJob:
		return p.validate(x)
	case ipp.PrintJob:
		return p.printNow(x)
	case ipp.CreateJob:
		if status, message := p.validate(x); !status.Succeeded() {
			return status, message
		}
		x.job(p, p.newJob(x))
		return ipp.OK, ""
	case ipp.SendDocument:
		return p.sendDocument(x)
	case ipp.GetJobAttributes, ipp.CancelJob:
		return p.aboutJob(x)
	case ipp.GetJobs:
		return p.listJobs(x)
	}
	return ipp.OpNotSupported, "This operation is not supported."
}

// text returns a text of the operation group; empty when it is not there.
func (x *exchange) text(name string) string {
	if values := x.request.Find(ipp.OperationGroup, name); len(values) > 0 {
		return values[0].Text
	}
	return ""
}

// add answers with a group of attributes, as far as they were requested.
func (x *exchange) add(tag ipp.Tag, attributes []ipp.Attribute) {
	wanted := x.request.Find(ipp.OperationGroup, "requested-attributes")
	all := len(wanted) == 0 && ipp.Op(x.request.Code) != ipp.GetJobs
	group := ipp.Group{Tag: tag}
	for _, a := range attributes {
		named := slices.ContainsFunc(wanted, func(v ipp.Value) bool {
			return v.Text == a.Name || v.Text == "all" || strings.HasSuffix(v.Text, "-description") ||
				strings.HasSuffix(v.Text, "-template")
		})
		short := len(wanted) == 0 && (a.Name == "job-id" || a.Name == "job-uri") // RFC 8011, 4.2.6.1
		if all || named || short {
			group.Attributes = append(group.Attributes, a)
		}
	}
	x.groups = append(x.groups, group)
}

// job answers with what a new job is known by.
func (x *exchange) job(p *Printer, j *job) {
	p.mutex.Lock()
	defer p.mutex.Unlock()
	x.groups = append(x.groups, ipp.Group{Tag: ipp.JobGroup, Attributes: p.jobAttributes(j, x.host)[:5]})
}

// validate refuses what could not be printed, naming it (RFC 8011, 4.2.1.2).
func (p *Printer) validate(x *exchange) (ipp.Status, string) {
	if format := x.text("document-format"); format != "" && !slices.Contains(p.formats(), format) {
		return ipp.FormatNotSupported, fmt.Sprintf("%s cannot be printed here; %s can.", format, p.formats()[0])
	}
	if compression := x.text("compression"); compression != "" && compression != "none" && compression != "gzip" &&
		compression != "deflate" {
		return ipp.AttributesNotSupport, fmt.Sprintf("The compression %s is not supported.", compression)
	}
	most := p.config.Printer.HeadWidth() * measure.Length(p.faces())
	if p.config.Printer.Vector {
		most = p.config.Printer.WidestWeb()
	}
	if width, _ := x.size(); width > most {
		return ipp.AttributesNotSupport, fmt.Sprintf("The label is %v wide and the head prints %v.", width, most)
	}
	return ipp.OK, ""
}

// formats returns what documents can be printed, the preferred first.
func (p *Printer) formats() []string {
	if p.config.Printer.Vector {
		return []string{pdfFormat, svgFormat}
	}
	return []string{rasterFormat, jpegFormat, "application/octet-stream"}
}

// asked notes in a job what it asks of the printer.
func (x *exchange) asked(j *job) {
	number := func(name string) int {
		if values := x.request.Find(ipp.JobGroup, name); len(values) > 0 {
			return values[0].Int
		}
		return 0
	}
	j.Darkness, j.Speed, j.Finishing = number("print-darkness"), number("print-speed")/100, number("finishings")
	j.Width, j.Length = x.size()
}

// size returns the size of page that a request is for; 0 where it does not say.
func (x *exchange) size() (width, length measure.Length) {
	if media := x.request.Find(ipp.JobGroup, "media-col"); len(media) > 0 {
		if size, ok := media[0].Member("media-size"); ok {
			w, _ := size.Member("x-dimension")
			l, _ := size.Member("y-dimension")
			return measure.Length(w.Int) * 10, measure.Length(l.Int) * 10
		}
	}
	return 0, 0
}

func (p *Printer) printNow(x *exchange) (ipp.Status, string) {
	if status, message := p.validate(x); !status.Succeeded() {
		return status, message
	}
	j := p.newJob(x)
	if status, message := p.receiveFor(x, j); !status.Succeeded() {
		return status, message
	}
	x.job(p, j)
	return ipp.OK, ""
}

func (p *Printer) receiveFor(x *exchange, j *job) (ipp.Status, string) {
	if !p.receive(j) {
		return ipp.NotPossible, "The job takes no further document."
	}
	document := x.body
	var err error
	switch x.text("compression") {
	case "gzip":
		document, err = gzip.NewReader(document)
	case "deflate":
		document = flate.NewReader(document) // RFC 1951, as RFC 8011, 5.4.32 has it
	}
	if err == nil {
		format := x.text("document-format")
		if format == "" || format == "application/octet-stream" { // told by how it begins
			begins := bufio.NewReader(document)
			start, _ := begins.Peek(2)
			document, format = begins, p.formats()[0]
			if string(start) == "\xff\xd8" && !p.config.Printer.Vector {
				format = jpegFormat
			}
		}
		err = p.document(j, format, document)
	}
	if err != nil {
		return ipp.DocumentFormatError, "The document broke off: " + err.Error()
	}
	return ipp.OK, ""
}

func (p *Printer) sendDocument(x *exchange) (ipp.Status, string) {
	if status, message := p.validate(x); !status.Succeeded() {
		return status, message
	}
	j := p.find(x)
	if j == nil {
		return ipp.NotFound, "There is no such job."
	}
	// RFC 8011, 4.3.1.1
	if last := x.request.Find(ipp.OperationGroup, "last-document"); len(last) == 0 || last[0].Tag != ipp.Boolean {
		return ipp.BadRequest, "A document says whether it is the last."
	}
	if status, message := p.receiveFor(x, j); !status.Succeeded() {
		return status, message
	}
	x.job(p, j)
	return ipp.OK, ""
}

// closeJob says that no further document comes (PWG 5100.11, 4.1); one that has none is over.
func (p *Printer) closeJob(x *exchange) (ipp.Status, string) {
	j := p.find(x)
	if j == nil {
		return ipp.NotFound, "There is no such job."
	}
	p.mutex.Lock()
	if j.State == held && !j.receiving {
		p.end(j, completed, "It had no document.")
	}
	p.mutex.Unlock()
	x.job(p, j)
	return ipp.OK, ""
}

// cancelMine cancels the jobs of who asks (PWG 5100.11, 4.2).
func (p *Printer) cancelMine(x *exchange) (ipp.Status, string) {
	p.mutex.Lock()
	defer p.mutex.Unlock()
	ids := map[int]bool{}
	for _, v := range x.request.Find(ipp.OperationGroup, "job-ids") {
		ids[v.Int] = true
	}
	for id, j := range p.open {
		if j.User == x.text("requesting-user-name") && (len(ids) == 0 || ids[id]) {
			p.end(j, canceled, "Cancelled.")
		}
	}
	return ipp.OK, ""
}

// find returns the job a request is about, by job-uri or job-id; nil when there is none.
func (p *Printer) find(x *exchange) *job {
	id := 0
	if values := x.request.Find(ipp.OperationGroup, "job-id"); len(values) > 0 {
		id = values[0].Int
	} else if uri := x.text("job-uri"); uri != "" {
		id, _ = strconv.Atoi(uri[strings.LastIndexByte(uri, '/')+1:])
	}
	p.mutex.Lock()
	defer p.mutex.Unlock()
	return p.jobs[id]
}

func (p *Printer) aboutJob(x *exchange) (ipp.Status, string) {
	j := p.find(x)
	if j == nil {
		return ipp.NotFound, "There is no such job."
	}
	if ipp.Op(x.request.Code) == ipp.CancelJob {
		if !p.cancel(j.ID) {
			return ipp.NotPossible, "The job is over already."
		}
		return ipp.OK, ""
	}
	p.mutex.Lock()
	defer p.mutex.Unlock()
	x.add(ipp.JobGroup, p.jobAttributes(j, x.host))
	return ipp.OK, ""
}

func (p *Printer) listJobs(x *exchange) (ipp.Status, string) {
	which, limit := x.text("which-jobs"), 0
	if values := x.request.Find(ipp.OperationGroup, "limit"); len(values) > 0 {
		limit = values[0].Int
	}
	if which != "" && which != "completed" && which != "not-completed" && which != "all" {
		return ipp.AttributesNotSupport, fmt.Sprintf("which-jobs %s is not supported.", which)
	}
	p.mutex.Lock()
	defer p.mutex.Unlock()
	var ids []int
	for id, j := range p.jobs {
		if which == "all" || j.State.over() == (which == "completed") {
			ids = append(ids, id)
		}
	}
	slices.Sort(ids)
	if which == "completed" {
		slices.Reverse(ids) // the newest first (RFC 8011, 4.2.6.2)
	}
	for i, id := range ids {
		if limit > 0 && i >= limit {
			break
		}
		x.add(ipp.JobGroup, p.jobAttributes(p.jobs[id], x.host))
	}
	return ipp.OK, ""
}

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
	switch p.stock.Kind {
	case stock.Tape:
		unit = "micrometers"
	case stock.Sheet:
		unit, name = "sheets", "tray"
	case stock.Plate:
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
