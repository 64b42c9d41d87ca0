package press

import "strings"

// Words says a printer's state and what a person is to do about it; do is empty when nothing.
func (s *Status) Words() (text, do string) {
	for _, reason := range s.Reasons {
		if text, do, ok := reasonWords(reason); ok && !strings.HasSuffix(reason, "-report") &&
			!strings.HasSuffix(reason, "-warning") {
			return text, do
		}
	}
	switch s.State {
	case Printing:
		text = "Printing"
	case Stopped:
		return "Stopped", "See what the printer itself shows."
	default:
		text = "Ready"
	}
	for _, reason := range s.Reasons {
		if warning, do, ok := reasonWords(reason); ok {
			return text + ", " + strings.ToLower(warning[:1]) + warning[1:], do
		}
	}
	return text, ""
}

// reasonWords puts the keywords of printer-state-reasons (RFC 8011, 5.4.12; PWG 5100.9) in words.
func reasonWords(reason string) (text, do string, ok bool) {
	reason = strings.TrimSuffix(strings.TrimSuffix(strings.TrimSuffix(reason, "-error"), "-warning"), "-report")
	words, ok := map[string][2]string{
		"media-empty": {"Roll is empty",
			"Load a roll of the same stock; the run goes on by itself."},
		"media-needed": {"Needs a roll",
			"Load the stock that the run needs; it goes on by itself."},
		"media-low":                        {"Roll is nearly empty", "Have the next roll ready."},
		"media-jam":                        {"Labels are jammed", "Clear the path of the web, then close the printer."},
		"cover-open":                       {"Cover is open", "Close the cover; the run goes on by itself."},
		"door-open":                        {"Door is open", "Close the door; the run goes on by itself."},
		"marker-supply-empty":              {"Ribbon has ended", "Load a new ribbon; the run goes on by itself."},
		"marker-supply-low":                {"Ribbon is nearly at its end", "Have the next ribbon ready."},
		"paused":                           {"Paused at the printer", "Press its button to go on."},
		"moving-to-paused":                 {"Pausing", "Wait until it stands still."},
		"shutdown":                         {"Switched off", "Switch the printer on."},
		"spool-area-full":                  {"Its memory is full", "Wait until it has printed what it has."},
		"output-area-full":                 {"Output is full", "Take the printed labels away."},
		"cutter-error":                     {"Cutter does not move", "Free the cutter."},
		"print-head-over-temp":             {"Print head is too hot", "Wait until it has cooled down."},
		"connecting-to-device":             {"Is being reached", "Wait a moment."},
		"timed-out":                        {"Does not answer the print server", "See that it is switched on."},
		"stopped-partly":                   {"Stopped in part", "See what the printer itself shows."},
		"interpreter-resource-unavailable": {"Ran out of memory", "Switch it off and on."},
	}[reason]
	return words[0], words[1], ok
}
