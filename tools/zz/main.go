package main

import (
	"fmt"
	"go/ast"
	"go/format"
	"go/parser"
	"go/token"
	"go/types"
	"os"
	"sort"
	"strings"
	"unicode/utf8"

	"golang.org/x/tools/go/packages"
)

type ins struct {
	at   int
	del  int
	text string
}

func apply(data []byte, list []ins) []byte {
	sort.SliceStable(list, func(i, j int) bool { return list[i].at < list[j].at })
	var out []byte
	last := 0
	for _, x := range list {
		if x.at < last {
			continue
		}
		out = append(out, data[last:x.at]...)
		out = append(out, x.text...)
		last = x.at + x.del
	}
	return append(out, data[last:]...)
}

func zero(e ast.Expr) bool {
	switch x := e.(type) {
	case *ast.Ident:
		return x.Name == "nil" || x.Name == "false"
	case *ast.BasicLit:
		return x.Value == `""`
	}
	return false
}

func main() {
	pk, err := packages.Load(&packages.Config{Mode: packages.LoadAllSyntax, Tests: true}, "./...")
	if err != nil {
		panic(err)
	}
	edits := map[string][]ins{}
	done := map[string]bool{}
	touched := map[string]map[int]bool{}
	for _, p := range pk {
		for _, f := range p.Syntax {
			name := p.Fset.Position(f.Pos()).Filename
			if done[name] || !strings.HasPrefix(name, "/work/main/") || strings.Contains(name, "tools/zz") {
				continue
			}
			done[name] = true
			data, _ := os.ReadFile(name)
			ast.Inspect(f, func(n ast.Node) bool {
				c, ok := n.(*ast.CompositeLit)
				if !ok || len(c.Elts) < 4 {
					return true
				}
				if _, keyed := c.Elts[0].(*ast.KeyValueExpr); keyed {
					return true
				}
				t := p.TypesInfo.TypeOf(c)
				if t == nil {
					return true
				}
				if pt, ok := t.Underlying().(*types.Pointer); ok {
					t = pt.Elem()
				}
				s, ok := t.Underlying().(*types.Struct)
				if !ok {
					return true
				}
				for i, e := range c.Elts {
					pos := p.Fset.Position(e.Pos()).Offset
					if zero(e) {
						end := p.Fset.Position(e.End()).Offset
						k := end
						for k < len(data) && (data[k] == ' ' || data[k] == ',') {
							k++
						}
						edits[name] = append(edits[name], ins{pos, k - pos, ""})
						continue
					}
					edits[name] = append(edits[name], ins{pos, 0, s.Field(i).Name() + ": "})
				}
				if touched[name] == nil {
					touched[name] = map[int]bool{}
				}
				touched[name][p.Fset.Position(c.Pos()).Line] = true
				return true
			})
		}
	}
	for name, list := range edits {
		data, _ := os.ReadFile(name)
		out := apply(data, list)
		out = breakUp(name, out)
		if err := os.WriteFile(name, out, 0o644); err != nil {
			panic(err)
		}
	}
	fmt.Println(len(edits), "files")
}

func wide(line string) int {
	return utf8.RuneCountInString(strings.ReplaceAll(line, "\t", "\t"))
}

// breakUp puts one field a line where a keyed literal spans lines or makes its line too wide.
func breakUp(name string, data []byte) []byte {
	for round := 0; round < 12; round++ {
		set := token.NewFileSet()
		f, err := parser.ParseFile(set, name, data, parser.ParseComments)
		if err != nil {
			fmt.Println(name, err)
			return data
		}
		lines := strings.Split(string(data), "\n")
		var list []ins
		busy := map[int]bool{}
		ast.Inspect(f, func(n ast.Node) bool {
			c, ok := n.(*ast.CompositeLit)
			if !ok || len(c.Elts) == 0 {
				return true
			}
			_, keyed := c.Elts[0].(*ast.KeyValueExpr)
			from, to := set.Position(c.Lbrace), set.Position(c.Rbrace)
			off := func(p token.Pos) int { return set.Position(p).Offset }
			// one element a line?
			perLine := true
			prev := from.Line
			for _, e := range c.Elts {
				if l := set.Position(e.Pos()).Line; l == prev {
					perLine = false
				}
				prev = set.Position(e.End()).Line
			}
			if prev == to.Line {
				perLine = false
			}
			if perLine {
				return true
			}
			tooWide := wide(lines[from.Line-1]) > 116
			composite := true
			for _, e := range c.Elts {
				if _, ok := e.(*ast.CompositeLit); !ok {
					composite = false
				}
			}
			// spans: keyed literal whose elements themselves start on several lines
			spans := keyed && len(c.Elts) >= 2 && set.Position(c.Elts[len(c.Elts)-1].Pos()).Line != from.Line
			breaks := spans || tooWide && (keyed && len(c.Elts) >= 2 || composite && len(c.Elts) >= 1)
			if !breaks || busy[from.Line] {
				return true
			}
			busy[from.Line] = true
			prev = from.Line
			last := off(c.Lbrace) + 1
			for _, e := range c.Elts {
				if set.Position(e.Pos()).Line == prev {
					list = append(list, ins{last, 0, "\n"})
				}
				prev = set.Position(e.End()).Line
				k := off(e.End())
				for k < len(data) && (data[k] == ' ' || data[k] == ',') {
					k++
				}
				last = k
			}
			if prev == to.Line {
				end := off(c.Elts[len(c.Elts)-1].End())
				list = append(list, ins{end, off(c.Rbrace) - end, ",\n"})
			}
			return true
		})
		if len(list) == 0 {
			break
		}
		out, err := format.Source(apply(data, list))
		if err != nil {
			fmt.Println(name, err)
			return data
		}
		if string(out) == string(data) {
			break
		}
		data = out
	}
	out, err := format.Source(data)
	if err != nil {
		fmt.Println(name, err)
		return data
	}
	return out
}
