package artwork

import (
	"bytes"
	"context"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"os/exec"
	"regexp"
	"slices"
	"strings"
	"syscall"
)

// svgTime is how much processor time librsvg may take, in seconds: less than a step of the whole.
const svgTime = 3

// svgToPDF has librsvg write an SVG that is readable as PDF, whose lines stay lines. Its error is a *refusal.Error, or
// tells that librsvg is not there.
func svgToPDF(data []byte) ([]byte, error) {
	// A process of its own that is over this limit is ended by it; this one, which is Go, is not.
	var usual syscall.Rlimit
	if err := syscall.Getrlimit(syscall.RLIMIT_CPU, &usual); err != nil {
		return nil, fmt.Errorf("bound librsvg: %w", err)
	}
	if err := syscall.Setrlimit(syscall.RLIMIT_CPU, &syscall.Rlimit{Cur: svgTime, Max: usual.Max}); err != nil {
		return nil, fmt.Errorf("bound librsvg: %w", err)
	}
	ctx, cancel := context.WithTimeout(context.Background(), limits.Time)
	defer cancel()
	convert := exec.CommandContext(ctx, "rsvg-convert", "--format", "pdf")
	convert.Stdin = bytes.NewReader(data) // it has no address, so that it reaches no other file
	var said bytes.Buffer
	convert.Stderr = &said
	out, err := convert.Output()
	if err := syscall.Setrlimit(syscall.RLIMIT_CPU, &usual); err != nil {
		return nil, fmt.Errorf("bound librsvg: %w", err)
	}
	if errors.Is(err, exec.ErrNotFound) {
		return nil, fmt.Errorf("draw an SVG: %w; install librsvg2-bin", err)
	}
	if status, is := exitStatus(err); is && status.Signaled() {
		return nil, svgTooSlow.With(svgTime)
	}
	if err != nil {
		return nil, svgNotDrawn.With(reason(said.String()))
	}
	return out, nil
}

func exitStatus(err error) (status syscall.WaitStatus, is bool) {
	if ended := new(exec.ExitError); errors.As(err, &ended) {
		status, is = ended.Sys().(syscall.WaitStatus)
	}
	return status, is
}

// reason is what librsvg says of a file, in words.
func reason(said string) string {
	switch lower := strings.ToLower(said); {
	case strings.Contains(lower, "exceeded"), strings.Contains(lower, "limit"):
		return "its parts use one another more often than is drawn"
	case strings.Contains(lower, "circular"):
		return "it uses what uses others again, without an end"
	case strings.Contains(lower, "xml"):
		return "it is no well-formed XML"
	}
	return "librsvg refuses it"
}

// What an SVG may be made of.
const (
	mostElements = 200_000
	mostDepth    = 50
)

// What librsvg leaves out without a word, by elements, properties, and parts of their values.
var (
	undrawnElements = map[string]string{
		"text": "text as letters, which would come out in another typeface on another machine; turn them to " +
			"outlines first",
		"foreignObject": "parts that are no SVG (foreignObject)", "script": "a script", "animate": "an animation",
		"animateTransform": "an animation",
		"animateMotion":    "an animation", "set": "an animation", "meshgradient": "a mesh of colours",
		"hatch": "a hatch",
		"video": "a film", "canvas": "a canvas",
		"flowRoot": "flowing text; turn it to outlines first",
	}
	undrawnProperties = []string{"vector-effect", "transform-origin", "transform-box", "offset-path", "shape-inside"}
	undrawnValues     = regexp.MustCompile(
		`(?i)\b(?:var|calc|min|max|clamp|env|attr|image-set|linear-gradient|radial-gradient|conic-gradient|light-dark|color-mix|oklch|oklab|lch|lab)\(`)
	undrawnShape = regexp.MustCompile(
		`(?i)clip-path\s*[:=]\s*["']?\s*(?:circle|ellipse|inset|polygon|path|rect|xywh)\(`)
	undrawnRule  = regexp.MustCompile(`(?i)@(?:import|media|supports|layer|container|property)\b`)
	reference    = regexp.MustCompile(`(?i)url\(\s*["']?([^)"']*)`)
	unitOfLength = regexp.MustCompile(`^\s*[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?([a-zA-Z]+|%)\s*$`)
	quarters     = regexp.MustCompile(`([=:]\s*["']?\s*)([+-]?(?:\d+\.?\d*|\.\d+))[qQ](\s*["';])`)
	rootElement  = regexp.MustCompile(`<(?:[\w-]+:)?svg\b`)
)

// drawnUnits are those of lengths that librsvg knows.
var drawnUnits = []string{"px", "mm", "cm", "in", "pt", "pc", "em", "ex", "%"}

// lengths are the attributes that are one.
var lengths = []string{"width", "height", "x", "y", "x1", "y1", "x2", "y2", "r", "rx", "ry", "cx", "cy", "fx", "fy",
	"stroke-width", "stroke-dashoffset", "font-size", "markerWidth", "markerHeight", "refX", "refY"}

// readable looks an SVG through and returns it as librsvg draws it right: lengths in quarters of a millimetre become
// millimetres, and letters are 16 px high where nothing else is said (CSS Fonts 4, 2.5), which em counts by. Its errors
// say what stands in it that is not drawn.
func readable(data []byte) ([]byte, error) {
	data = quarters.ReplaceAllFunc(data, func(found []byte) []byte {
		parts := quarters.FindSubmatch(found)
		var n float64
		_, _ = fmt.Sscan(string(parts[2]), &n) // the expression takes nothing else
		return fmt.Appendf(nil, "%s%gmm%s", parts[1], n/4, parts[3])
	})
	decoder := xml.NewDecoder(bytes.NewReader(data))
	decoder.Strict = false
	// names are ASCII in all that librsvg reads
	decoder.CharsetReader = func(_ string, in io.Reader) (io.Reader, error) { return in, nil }
	root, letters := sizes{}, false
	depth, elements, inStyle := 0, 0, false
	for {
		token, err := decoder.RawToken()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return nil, errors.New("it is no well-formed XML")
		}
		switch t := token.(type) {
		case xml.StartElement:
			if depth, elements = depth+1, elements+1; depth > mostDepth || elements > mostElements {
				return nil, fmt.Errorf("it has more than %d elements or %d levels", mostElements, mostDepth)
			}
			if what, is := undrawnElements[t.Name.Local]; is {
				return nil, fmt.Errorf("it has %s", what)
			}
			inStyle = t.Name.Local == "style"
			for _, a := range t.Attr {
				if err := drawn(t.Name.Local, a); err != nil {
					return nil, err
				}
				if elements == 1 {
					root.take(a)
					letters = letters || a.Name.Local == "font-size"
				}
			}
		case xml.CharData:
			if inStyle {
				if err := drawnStyle(string(t)); err != nil {
					return nil, err
				}
			}
		case xml.EndElement:
			depth, inStyle = depth-1, false
		case xml.Directive:
			if bytes.Contains(t, []byte("ENTITY")) && bytes.Count(t, []byte("<")) > bytes.Count(t, []byte("<!")) {
				return nil, errors.New("it keeps elements as entities; save it with these resolved")
			}
		case xml.ProcInst:
			if t.Target == "xml-stylesheet" {
				return nil, errors.New("its styles are in another file; put them into it")
			}
		}
	}
	if !root.known() {
		return nil, errors.New("it does not say how large it is")
	}
	if !letters {
		if at := rootElement.FindIndex(data); at != nil {
			data = slices.Concat(data[:at[1]], []byte(` font-size="16"`), data[at[1]:])
		}
	}
	return data, nil
}

// sizes is what the outermost element says of its size (SVG 2, 8.2).
type sizes struct{ width, height, box bool }

func (s *sizes) take(a xml.Attr) {
	given := strings.TrimSpace(a.Value) != "" && a.Value != "auto" && !strings.Contains(a.Value, "%")
	switch a.Name.Local {
	case "width":
		s.width = given
	case "height":
		s.height = given
	case "viewBox":
		s.box = given
	}
}

func (s *sizes) known() bool { return s.width && s.height || s.box }

// drawn refuses an attribute that would be left out.
func drawn(element string, a xml.Attr) error {
	name, value := a.Name.Local, strings.TrimSpace(a.Value)
	switch {
	case name == "href" && value != "" && !strings.HasPrefix(value, "#") && element != "a":
		if element != "image" || !strings.HasPrefix(value, "data:") {
			return errors.New("it links to another file, which is not followed; put that into it")
		}
	case slices.Contains(undrawnProperties, name) && value != "none":
		return fmt.Errorf("it uses %s, which is not drawn", name)
	case slices.Contains(lengths, name):
		if unit := unitOfLength.FindStringSubmatch(value); unit != nil && !slices.Contains(drawnUnits, unit[1]) {
			return fmt.Errorf("a length is given in %s; give it in mm", unit[1])
		}
	}
	if strings.HasPrefix(name, "on") && len(name) > 4 {
		return errors.New("it has a script")
	}
	if undrawnShape.MatchString(name + "=" + value) {
		return errors.New("it clips by a shape of CSS, which is not drawn; clip by a path")
	}
	return drawnStyle(strings.TrimPrefix(value, "data:")) // the data of a picture holds no brackets
}

// drawnStyle refuses what stands in a style that would be left out.
func drawnStyle(text string) error {
	if len(text) < 5 {
		return nil
	}
	if rule := undrawnRule.FindString(text); rule != "" {
		return fmt.Errorf("its styles use %s, which is not followed", rule)
	}
	if function := undrawnValues.FindString(text); function != "" && !strings.HasPrefix(text, "M") {
		return fmt.Errorf("its styles use %s), which is not computed", function)
	}
	if undrawnShape.MatchString(text) {
		return errors.New("it clips by a shape of CSS, which is not drawn; clip by a path")
	}
	for _, to := range reference.FindAllStringSubmatch(text, -1) {
		if !strings.HasPrefix(to[1], "#") && !strings.HasPrefix(to[1], "data:font") {
			return errors.New("its styles link to another file, which is not followed; put that into it")
		}
	}
	for _, property := range undrawnProperties {
		if i := strings.Index(text, property); i >= 0 && strings.HasPrefix(strings.TrimSpace(text[i+len(property):]),
			":") {
			return fmt.Errorf("it uses %s, which is not drawn", property)
		}
	}
	return nil
}
