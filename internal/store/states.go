package store

// States of numbers, labels and prints, and how each may change. The database refuses every other change (trigger
// state_kept of migration 33), whoever asks for it; a test holds its lists and its constraints to this table.
//
//	numbers      open ─────► printed ─────► spoiled     prints   printing ◄────► held
//	              │ ▲──────────┘   its label was told                │             │
//	              │ not out after all   as spoiled                   ├─────────────┤
//	              ├─────► returned ─────► voided                     ▼             ▼
//	              └─────────────────────────▲                      done, cancelled
//
//	labels of a print   waiting ◄────► printed ─────► spoiled
//	                       ├─────► unknown ◄────┐ what was at the printer when its print ended; a person settles it
//	                       └─────► cancelled

// A NumberState is what became of a number of a series.
type NumberState string

// The states of a number.
const (
	NumberOpen     NumberState = "open"     // given to a label that is not known to be out
	NumberPrinted  NumberState = "printed"  // its label came out
	NumberSpoiled  NumberState = "spoiled"  // its label came out and is no good
	NumberVoided   NumberState = "voided"   // it goes to no label
	NumberReturned NumberState = "returned" // it stands on no label and is given again
)

// A PrintState is how far a print is.
type PrintState string

// The states of a print.
const (
	PrintPrinting  PrintState = "printing"
	PrintHeld      PrintState = "held" // a person must look
	PrintDone      PrintState = "done"
	PrintCancelled PrintState = "cancelled"
)

// A PieceState is what became of a label of a print.
type PieceState string

// The states of a label of a print.
const (
	PieceWaiting   PieceState = "waiting"
	PiecePrinted   PieceState = "printed"
	PieceSpoiled   PieceState = "spoiled"
	PieceUnknown   PieceState = "unknown" // it was at the printer when its print ended
	PieceCancelled PieceState = "cancelled"
)

// Transitions are the changes that there are, by table: from each state to others. A state without any is an end.
// Transitions says them to tests.
var Transitions = map[string]map[string][]string{
	"numbers": {
		string(NumberOpen): {string(NumberPrinted), string(NumberReturned), string(NumberSpoiled),
			string(NumberVoided)},
		string(NumberPrinted):  {string(NumberOpen), string(NumberSpoiled)},
		string(NumberReturned): {string(NumberVoided)},
		string(NumberSpoiled):  nil,
		string(NumberVoided):   nil,
	},
	"prints": {
		string(PrintPrinting):  {string(PrintCancelled), string(PrintDone), string(PrintHeld)},
		string(PrintHeld):      {string(PrintCancelled), string(PrintDone), string(PrintPrinting)},
		string(PrintDone):      nil,
		string(PrintCancelled): nil,
	},
	"pieces": {
		string(PieceWaiting):   {string(PieceCancelled), string(PiecePrinted), string(PieceUnknown)},
		string(PiecePrinted):   {string(PieceSpoiled), string(PieceWaiting)},
		string(PieceUnknown):   {string(PiecePrinted), string(PieceWaiting)},
		string(PieceCancelled): nil,
		string(PieceSpoiled):   nil,
	},
}
