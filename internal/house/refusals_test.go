package house_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"path/filepath"
	"regexp"
	"strconv"
	"testing"

	"github.com/stretchr/testify/require"
)

var standing = regexp.MustCompile(`\{[a-zA-Z0-9]+(:[^}]+)?\}`)

// Each refusal is given as many values as its sentence has places for.
func TestRefusalsHaveTheirValues(t *testing.T) {
	packages := map[string][]*ast.File{}
	files := token.NewFileSet()
	for _, name := range tracked(t, "core/*.go", "internal/*.go", "cmd/*.go", ":!internal/api", ":!*_test.go") {
		file, err := parser.ParseFile(files, filepath.Join(root, name), nil, 0)
		require.NoError(t, err, name)
		packages[filepath.Dir(name)] = append(packages[filepath.Dir(name)], file)
	}
	looked := 0
	for _, parsed := range packages {
		places := map[string]int{} // of the kinds of a package, by their variables
		for _, file := range parsed {
			ast.Inspect(file, func(n ast.Node) bool {
				if spec, is := n.(*ast.ValueSpec); is && len(spec.Values) == len(spec.Names) {
					for i, value := range spec.Values {
						if call := called(value, "Define"); call != nil && len(call.Args) == 3 {
							places[spec.Names[i].Name] = len(standing.FindAllString(constant(call.Args[2]), -1))
						}
					}
				}
				return true
			})
		}
		for _, file := range parsed {
			ast.Inspect(file, func(n ast.Node) bool {
				expression, _ := n.(ast.Expr)
				call := called(expression, "With")
				if call == nil {
					return true
				}
				kind, is := call.Fun.(*ast.SelectorExpr).X.(*ast.Ident)
				if want, known := places[kindName(kind, is)]; known {
					looked++
					if len(call.Args) != want {
						t.Errorf("%v: %s takes %d values", files.Position(call.Pos()), kind.Name, want)
					}
				}
				return true
			})
		}
	}
	require.Greater(t, looked, 300, "refusals looked at")
}

// called returns the call of a method or function of a name; nil: it is none.
func called(e ast.Expr, name string) *ast.CallExpr {
	call, is := e.(*ast.CallExpr)
	if !is {
		return nil
	}
	if selected, is := call.Fun.(*ast.SelectorExpr); is && selected.Sel.Name == name {
		return call
	}
	return nil
}

func kindName(kind *ast.Ident, is bool) string {
	if !is {
		return ""
	}
	return kind.Name
}

// constant returns the text of string literals that are joined.
func constant(e ast.Expr) string {
	switch e := e.(type) {
	case *ast.BasicLit:
		text, _ := strconv.Unquote(e.Value)
		return text
	case *ast.BinaryExpr:
		return constant(e.X) + constant(e.Y)
	}
	return ""
}
