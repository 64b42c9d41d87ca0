// Package formula computes what a label says from a record: expressions over its fields with functions under plain
// names (List), and changes that are chosen without writing anything (Change). Numbers are decimal, so that prices and
// weights come out to the cent; fields are text until number or an arithmetic sign makes numbers of them. An expression
// always ends and touches nothing.
package formula

import (
	"errors"
	"fmt"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/expr-lang/expr"
	"github.com/expr-lang/expr/ast"
	"github.com/expr-lang/expr/file"
	"github.com/expr-lang/expr/parser"
	"github.com/expr-lang/expr/vm"
	"github.com/shopspring/decimal"
)

// Limits of an expression.
const (
	MostLetters = 5000 // of an expression, and of each text that it makes
	mostNodes   = 1000
)

// An Error says what is wrong with an expression or with a value that it was given, and where in the expression.
type Error struct {
	At   int // letter of the expression, from 1; 0: the whole
	Text string
}

func (e *Error) Error() string {
	if e.At == 0 {
		return e.Text
	}
	return fmt.Sprintf("letter %d: %s", e.At, e.Text)
}

// A Formula is an expression made ready for records with certain fields. It is safe for concurrent use.
type Formula struct {
	program *vm.Program
}

// A Setting is what an expression knows besides the record.
type Setting struct {
	Now    time.Time // of printing, in the time zone of the plant
	Lookup func(set, key, keyField, field string) (value string, found bool, err error)
}

// world is what an expression is run in.
type world struct {
	record []string
	set    *Setting
}

// fieldAt is what a field is: a function, which is three times as fast as to have the language reflect on a list.
const fieldAt = "#field"

// valueAt returns the value of a field of the world's record, by its place.
func valueAt(args ...any) (any, error) {
	record, place := args[0].(*world).record, args[1].(int)
	if place >= len(record) {
		return "", nil
	}
	return record[place], nil
}

// Compile makes an expression ready. Its error is an *Error.
func Compile(text string, fields []string) (*Formula, error) {
	if strings.TrimSpace(text) == "" {
		return nil, &Error{Text: "The formula is empty."}
	}
	if len(text) > MostLetters {
		return nil, &Error{Text: fmt.Sprintf("The formula has more than %d letters.", MostLetters)}
	}
	called := newCallees()
	patch := &patcher{fields: fields, called: called}
	options := []expr.Option{
		expr.Env(&world{}), expr.AsAny(), expr.DisableAllBuiltins(), expr.DisableIfOperator(), expr.MaxNodes(mostNodes),
		expr.Optimize(false),
		expr.Patch(called), expr.Patch(patch), expr.Function(fieldAt, valueAt),
	}
	for _, f := range operators {
		options = append(options, expr.Function(f.Name, f.call))
	}
	for _, f := range functions {
		options = append(options, expr.Function(f.Name, f.call))
	}
	program, err := expr.Compile(text, options...)
	if patch.err != nil {
		return nil, patch.err
	}
	if err != nil {
		return nil, plain(err)
	}
	return &Formula{program}, nil
}

// Fields returns the names of the fields that an expression uses, whether records have them or not. Its error is an
// *Error.
func Fields(text string) (names []string, err error) {
	tree, err := parser.Parse(text)
	if err != nil {
		return nil, plain(err)
	}
	called := newCallees()
	ast.Walk(&tree.Node, called)
	found := &namer{called: called}
	ast.Walk(&tree.Node, found)
	return found.names, nil
}

// TellsTime tells whether what an expression gives depends on when it is printed.
func TellsTime(text string) bool {
	tree, err := parser.Parse(text)
	if err != nil {
		return false
	}
	called := newCallees()
	ast.Walk(&tree.Node, called)
	for node := range called.nodes {
		if name, is := node.(*ast.IdentifierNode); is {
			if f := find(name.Value); f != nil && f.clock {
				return true
			}
		}
	}
	clock := &builtins{}
	ast.Walk(&tree.Node, clock)
	return clock.tells
}

// builtins finds calls of functions that have the name of one of the language's own.
type builtins struct{ tells bool }

// Visit implements ast.Visitor.
func (b *builtins) Visit(node *ast.Node) {
	if call, is := (*node).(*ast.BuiltinNode); is {
		f := find(call.Name)
		b.tells = b.tells || f != nil && f.clock
	}
}

// namer gathers the names of fields.
type namer struct {
	called *callees
	names  []string
}

// Visit implements ast.Visitor.
func (n *namer) Visit(node *ast.Node) {
	name := ""
	switch is := (*node).(type) {
	case *ast.IdentifierNode:
		if !n.called.nodes[is] && !n.called.named[is.Value] {
			name = is.Value
		}
	case *ast.CallNode:
		if callee, named := is.Callee.(*ast.IdentifierNode); named && callee.Value == "field" &&
			len(is.Arguments) == 1 {
			if text, said := is.Arguments[0].(*ast.StringNode); said {
				name = text.Value
			}
		}
	}
	if name != "" && !slices.Contains(n.names, name) {
		n.names = append(n.names, name)
	}
}

var machines = sync.Pool{New: func() any { return &vm.VM{} }}

// Text returns what the expression gives for a record. Its error is an *Error.
func (f *Formula) Text(record []string, set *Setting) (string, error) {
	machine := machines.Get().(*vm.VM)
	defer machines.Put(machine)
	result, err := machine.Run(f.program, &world{record, set})
	if err != nil {
		return "", plain(err)
	}
	text, err := asText(result)
	if err == nil && len(text) > MostLetters {
		err = fmt.Errorf("it gives more than %d letters", MostLetters)
	}
	if err != nil {
		return "", &Error{Text: sentence(err.Error())}
	}
	return text, nil
}

// callees are the names of functions where they are called, and the names that values are given by let.
type callees struct {
	nodes map[ast.Node]bool
	named map[string]bool
}

func newCallees() *callees { return &callees{map[ast.Node]bool{}, map[string]bool{}} }

// Visit implements ast.Visitor.
func (c *callees) Visit(node *ast.Node) {
	if call, is := (*node).(*ast.CallNode); is {
		c.nodes[call.Callee] = true
	}
	if let, is := (*node).(*ast.VariableDeclaratorNode); is {
		c.named[let.Name] = true
	}
}

// patcher makes of what is written what is computed: decimal numbers, our own arithmetic, and fields by their places.
type patcher struct {
	fields []string
	called *callees
	err    *Error
}

// Visit implements ast.Visitor.
func (p *patcher) Visit(node *ast.Node) {
	switch n := (*node).(type) {
	case *ast.IntegerNode:
		ast.Patch(node, &ast.ConstantNode{Value: decimal.NewFromInt(int64(n.Value))})
	case *ast.FloatNode:
		ast.Patch(node, &ast.ConstantNode{Value: decimal.NewFromFloat(n.Value)})
	case *ast.IdentifierNode:
		if !p.called.nodes[n] && !p.called.named[n.Value] {
			p.field(node, n.Value)
		}
	case *ast.CallNode:
		p.call(node, n)
	case *ast.UnaryNode:
		if n.Operator == "-" || n.Operator == "+" {
			p.operate(node, "#"+n.Operator+"1", n.Node)
		}
	case *ast.BinaryNode:
		if _, ours := signs[n.Operator]; ours {
			p.operate(node, "#"+n.Operator, n.Left, n.Right)
			return
		}
		switch n.Operator {
		case "and", "or", "&&", "||", "??":
		default:
			p.refuse(*node, fmt.Sprintf("The sign “%s” is not known here.", n.Operator))
		}
	case *ast.BuiltinNode, *ast.PredicateNode, *ast.PointerNode, *ast.MapNode, *ast.SliceNode, *ast.SequenceNode:
		p.refuse(*node, "This is not known in formulas; the functions are listed beside.")
	}
}

func (p *patcher) refuse(node ast.Node, text string) {
	if p.err == nil {
		p.err = &Error{At: node.Location().From + 1, Text: text}
	}
}

// field puts a field's place where its name is.
func (p *patcher) field(node *ast.Node, name string) {
	at := slices.Index(p.fields, name)
	if at < 0 {
		p.refuse(*node, fmt.Sprintf("There is no field “%s”.%s", name, p.nearest(name)))
		return
	}
	p.operate(node, fieldAt, theWorld(), &ast.ConstantNode{Value: at})
}

// nearest offers the field that was probably meant.
func (p *patcher) nearest(name string) string {
	for _, field := range p.fields {
		if strings.EqualFold(strings.ReplaceAll(field, " ", "_"), name) || strings.EqualFold(field, name) {
			if field == name || !strings.Contains(field, " ") {
				return fmt.Sprintf(" Is “%s” meant?", field)
			}
			return fmt.Sprintf(" Is field(\"%s\") meant?", field)
		}
	}
	if len(p.fields) == 0 {
		return " The records have none."
	}
	return fmt.Sprintf(" There are: %s.", strings.Join(p.fields[:min(len(p.fields), 12)], ", "))
}

// call looks over a call of a function.
func (p *patcher) call(node *ast.Node, n *ast.CallNode) {
	name, is := n.Callee.(*ast.IdentifierNode)
	if !is {
		p.refuse(*node, "Only functions that are listed can be called.")
		return
	}
	f := find(name.Value)
	if f == nil {
		p.refuse(*node, fmt.Sprintf("There is no function “%s”.%s", name.Value, nearestFunction(name.Value)))
		return
	}
	if len(n.Arguments) < f.least || f.most >= 0 && len(n.Arguments) > f.most {
		p.refuse(*node, fmt.Sprintf("%s is written %s(%s): %d values are given.", f.Name, f.Name, f.Takes,
			len(n.Arguments)))
		return
	}
	if f.Name == "field" {
		text, is := n.Arguments[0].(*ast.StringNode)
		if !is {
			p.refuse(*node, "field wants the field's name in quotation marks.")
			return
		}
		p.field(node, text.Value)
		return
	}
	if f.world {
		n.Arguments = slices.Insert(n.Arguments, 0, theWorld())
	}
}

// theWorld is what an expression is run in, as a value of it.
func theWorld() ast.Node { return &ast.IdentifierNode{Value: "$env"} }

// operate puts a function where a sign is.
func (p *patcher) operate(node *ast.Node, name string, arguments ...ast.Node) {
	callee := &ast.IdentifierNode{Value: name}
	callee.SetLocation((*node).Location())
	ast.Patch(node, &ast.CallNode{Callee: callee, Arguments: arguments})
}

// plain says in plain words what the expression language found wrong.
func plain(err error) *Error {
	found := new(file.Error)
	if !errors.As(err, &found) {
		return &Error{Text: sentence(err.Error())}
	}
	text := found.Message
	if own := errors.Unwrap(found); own != nil {
		text = own.Error()
	}
	if name, is := strings.CutPrefix(text, "cannot redeclare "); is { // a function, a variable
		_, name, _ = strings.Cut(name, " ")
		return &Error{At: found.From + 1,
			Text: fmt.Sprintf("“%s” is a function, or has a value already. Give this value another name.", name)}
	}
	for _, is := range []struct{ begins, says string }{
		{"unexpected token EOF", "The formula ends too early: something is missing at its end, such as a bracket or " +
			"a value."},
		{"literal not terminated", "A quotation mark is not closed."},
		{"unclosed", "A bracket is not closed."},
		{"unexpected token Operator(\"=\")", "A single = compares nothing: write == to compare."},
	} {
		if strings.HasPrefix(text, is.begins) {
			return &Error{At: found.From + 1, Text: is.says}
		}
	}
	if token, is := strings.CutPrefix(text, "unexpected token "); is {
		if _, value, some := strings.Cut(token, `("`); some {
			token = strings.TrimSuffix(value, `")`)
		}
		return &Error{At: found.From + 1, Text: fmt.Sprintf("“%s” is not expected here.", token)}
	}
	if strings.Contains(text, "interface conversion") || strings.Contains(text, "non-bool") ||
		strings.Contains(text, "nvalid operation") {
		text = "a condition is wanted here, such as qty > 3"
	}
	if strings.Contains(text, "memory budget") || strings.Contains(text, "exceeds") {
		text = "the formula makes too much"
	}
	return &Error{At: found.From + 1, Text: sentence(text)}
}

// sentence begins with a capital and ends with a full stop.
func sentence(text string) string {
	if text == "" {
		return text
	}
	if !strings.HasSuffix(text, ".") && !strings.HasSuffix(text, "?") {
		text += "."
	}
	if first := text[:1]; first >= "a" && first <= "z" {
		return strings.ToUpper(first) + text[1:]
	}
	return text
}
