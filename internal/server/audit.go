package server

import (
	"context"
	"reflect"

	"github.com/gin-gonic/gin"

	"oddspool/internal/api"
	"oddspool/internal/server/handler"
	"oddspool/internal/store"
)

// audited are the operations of the contract that are told as what somebody did: what they are about, and the words for
// it. Drafts are kept with every stroke and tell by themselves who changed them last.
var audited = map[string]struct {
	about, words string
	made         bool // it is about what the answer has, though the path names another
}{
	"SignIn":           {"account", "signed in", false},
	"SignOut":          {"account", "signed out", false},
	"EndSession":       {"account", "ended a session of their own", false},
	"EndOtherSessions": {"account", "ended their other sessions", false},
	"AddPrinter":       {"printer", "added the printer", false},
	"ChangePrinter":    {"printer", "changed the printer", false},
	"RetirePrinter":    {"printer", "took off the floor the printer", false},
	"LoadStock":        {"printer", "said what is loaded in", false},
	"SayLoaded":        {"printer", "said otherwise than the printer what is loaded in", false},
	"BelievePrinter":   {"printer", "believed again about what is loaded the printer", false},
	"PrintRuled":       {"printer", "printed a ruled label on", false},
	"AddSetup":         {"set-up", "added the print set-up", true},
	"ChangeSetup":      {"set-up", "changed the print set-up", false},
	"DeleteSetup":      {"set-up", "deleted the print set-up", false},
	"SetOffsets":       {"set-up", "set the offsets of the print set-up", false},
	"AddStock":         {"stock", "added the stock", false},
	"AddStockOfSize":   {"stock", "added a stock of a size", false},
	"PutStockFile":     {"stock", "took stocks in from a file", false},
	"ChangeStock":      {"stock", "changed the stock", false},
	"RetireStock":      {"stock", "retired the stock", false},
	"CreateDesign":     {"design", "began the design", false},
	"OpenDesignFile":   {"design", "took in from a file the design", true},
	"LabelDesign":      {"design", "renamed or tagged the design", false},
	"ReturnDesign":     {"design", "brought back the design", false},
	"RetireDesign":     {"design", "retired the design", false},
	"KeepRevision":     {"design", "kept a version of the design", false},
	"AddArtwork":       {"picture", "brought in artwork", false},
	"DesignArtwork":    {"design", "made of artwork the design", true},
	"AddPart":          {"part", "shared the part", true},
	"ChangePart":       {"part", "changed the shared part", false},
	"RetirePart":       {"part", "retired the shared part", false},
	"AddTypeface":      {"typeface", "brought in a typeface", false},
	"AddPicture":       {"picture", "brought in a picture", false},
	"ImportRecords":    {"record set", "took in the records", false},
	"TakeSource":       {"record set", "took in from a connection the records", true},
	"RefreshRecords":   {"record set", "read again the records", false},
	"SetWriteBack":     {"record set", "had told what is printed the source of", false},
	"EndWriteBack":     {"record set", "had told no more the source of", false},
	"AddConnection":    {"connection", "made the connection", false},
	"ChangeConnection": {"connection", "changed the connection", false},
	"CloseConnection":  {"connection", "closed the connection", false},
	"GatherRecords":    {"record set", "gathered records to the record set", true},
	"RetireRecordSet":  {"record set", "retired the record set", false},
	"PrepareRun":       {"run", "prepared the run of", false},
	"ChangeRun":        {"run", "chose anew for the run of", false},
	"CloseRun":         {"run", "gave up the rest of the run of", false},
	"AddRolls":         {"stock", "noted rolls in the Stockroom", false},
	"TakeRoll":         {"roll", "took from the Stockroom roll", false},
	"KeepDayOrder":     {"order of the day", "kept the order of the day", true},
	"DeleteDayOrder":   {"order of the day", "forgot the order of the day", false},
	"StartDayOrder":    {"run", "prepared by an order of the day the run of", true},
	"WriteLabels":      {"run", "wrote files of the labels of the run of", false},
	"MailLabels":       {"run", "sent by mail the labels of the run of", false},
	"PutLabels":        {"run", "put into the folder the labels of the run of", false},
	"PausePrint":       {"print", "paused a print of", false},
	"SpoilLabels":      {"run", "said what came out spoiled of the run of", false},
	"AddSeries":        {"number series", "made the number series", false},
	"ChangeSeries":     {"number series", "changed the number series", false},
	"RetireSeries":     {"number series", "took out of use the number series", false},
	"VoidNumber":       {"number", "voided the number", false},
	"StartPrint":       {"run", "began to print the run of", false},
	"CancelPrint":      {"print", "cancelled print", false},
	"GoOnPrint":        {"print", "went on with print", false},
	"MovePrint":        {"print", "moved to another printer print", false},
}

// noting notes what was done when it was done. That it cannot be noted undoes nothing: it is logged. What is done is
// noted also where who asked for it is gone meanwhile.
func (s *Server) noting(next api.StrictHandlerFunc, operation string) api.StrictHandlerFunc {
	entry, told := audited[operation]
	if !told {
		return next
	}
	return func(c *gin.Context, request any) (any, error) {
		before, about := s.User(c), idOf(request) // who signs out is nobody after, and what is deleted has no name
		name, err := s.Store.NameOf(c.Request.Context(), entry.about, about)
		if err != nil {
			return nil, err
		}
		answer, err := next(c, request)
		if err != nil {
			return answer, err
		}
		noting := context.WithoutCancel(c.Request.Context())
		by := s.User(c)
		if by == "" {
			by = before
		}
		if made := idOf(answer); made != 0 && (about == 0 || entry.made) {
			about = made
			if name, err = s.Store.NameOf(noting, entry.about, about); err != nil { // what is done is done
				s.Log.Error("what a entry is about has no name", "operation", operation, "subject", about, "error", err)
			}
		}
		if err := s.Store.AddAudit(noting, store.AuditEntry{Account: by, Operation: operation, SubjectKind: entry.about,
			SubjectID: about, Name: name}); err != nil {
			s.Log.Error("a entry is not noted", "by", by, "operation", operation, "subject", about, "error", err)
		}
		return answer, nil
	}
}

// idOf returns the id in a request's path or of an answer; 0: it has none.
func idOf(of any) int64 {
	if v := reflect.ValueOf(of); v.Kind() == reflect.Struct {
		if id := v.FieldByName("Id"); id.IsValid() && id.CanInt() {
			return id.Int()
		}
	}
	return 0
}

// mostEntries is how many are shown, the latest first.
const mostEntries = 500

// ListAudit implements api.StrictServerInterface.
func (s *Server) ListAudit(ctx context.Context, req api.ListAuditRequestObject) (api.ListAuditResponseObject, error) {
	done, err := s.Store.Audit(ctx, handler.Or(req.Params.Run, 0), mostEntries)
	answer := make(api.ListAudit200JSONResponse, len(done))
	for i, d := range done {
		answer[i] = api.AuditEntry{Id: d.ID, DoneAt: d.DoneAt, By: d.Account, Did: audited[d.Operation].words,
			About: api.AuditEntryAbout(d.SubjectKind), SubjectId: d.SubjectID, Name: d.Name, RunId: d.RunID}
	}
	return answer, err
}
