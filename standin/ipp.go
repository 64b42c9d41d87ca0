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

	"oddspool/core/measure"
	"oddspool/internal/press/ipp"
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
