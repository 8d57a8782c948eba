package dev.mockbell.expression;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.problem.Problem;
import dev.mockbell.task.StopSignal;
import java.io.ByteArrayOutputStream;
import java.io.PrintStream;
import java.io.StringReader;
import java.lang.reflect.Field;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import javax.xml.transform.stream.StreamSource;
import net.sf.saxon.functions.registry.BuiltInFunctionSet;
import net.sf.saxon.functions.registry.VendorFunctionSetHE;
import net.sf.saxon.functions.registry.XPath31FunctionSet;
import net.sf.saxon.functions.registry.XSLT30FunctionSet;
import net.sf.saxon.ma.arrays.ArrayFunctionSet;
import net.sf.saxon.ma.map.MapFunctionSet;
import net.sf.saxon.s9api.Processor;
import net.sf.saxon.s9api.XPathCompiler;
import net.sf.saxon.s9api.XdmNode;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

class BoundsTest {
    private static final String FN = "http://www.w3.org/2005/xpath-functions";

    @TempDir
    Path folder;

    private final Expressions expressions =
            new Expressions(new Budget.Bounds(Duration.ofMillis(250), Budget.Bounds.USUAL.work() / 10));

    /** Every function that the library has in any of its sets, as {@code Q{namespace}name#arity}. */
    static List<String> functionsOfTheLibrary() throws ReflectiveOperationException {
        Set<String> all = new TreeSet<>();
        for (BuiltInFunctionSet set : List.of(
                XPath31FunctionSet.getInstance(),
                XSLT30FunctionSet.getInstance(),
                VendorFunctionSetHE.getInstance(),
                MapFunctionSet.getInstance(31),
                ArrayFunctionSet.getInstance(31),
                net.sf.saxon.functions.MathFunctionSet.getInstance())) {
            collect(set, set.getNamespace().toString(), all);
        }
        return new ArrayList<>(all);
    }

    private static void collect(BuiltInFunctionSet set, String namespace, Collection<String> into)
            throws ReflectiveOperationException {
        Field table = BuiltInFunctionSet.class.getDeclaredField("functionTable");
        table.setAccessible(true);
        for (Object key : ((Map<?, ?>) table.get(set)).keySet()) {
            into.add("Q{" + namespace + "}" + key);
        }
    }

    @ParameterizedTest
    @MethodSource("functionsOfTheLibrary")
    void everyFunctionIsAllowedByNameOrRefused(String function) throws Exception {
        int at = function.indexOf('#');
        int arity = Math.max(0, Integer.parseInt(function.substring(at + 1)));
        String name = function.substring(0, at);
        String local = name.substring(name.indexOf('}') + 1);
        boolean listed =
                !name.startsWith("Q{" + FN + "}") ? !name.contains("saxon") : AllowedFunctions.NAMES.contains(local);
        Path secret = Files.writeString(folder.resolve("secret.xml"), "<a>t0p-secret</a>");
        String argument = "'" + secret.toUri() + "'";
        String call = name + "(" + String.join(", ", java.util.Collections.nCopies(arity, argument)) + ")";
        String indirect = "let $f := " + function + " return $f("
                + String.join(", ", java.util.Collections.nCopies(arity, argument)) + ")";
        for (String written : List.of(call, indirect)) {
            String outcome;
            try {
                outcome = expressions.text(written, Scope.EMPTY);
                assertThat(listed).as("%s gives %s", written, outcome).isTrue();
            } catch (Problem problem) {
                outcome = problem.getMessage();
            }
            assertThat(outcome).as(written).doesNotContain("t0p-secret");
        }
        if (!listed) {
            assertThatThrownBy(() -> expressions.text(call, Scope.EMPTY))
                    .isInstanceOf(Problem.class)
                    .hasMessageMatching("(?s).*(may not use|not use the function|Cannot find|does not parse).*");
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "collection('file:///etc/?select=passwd')",
                "uri-collection('file:///etc')",
                "collection()",
                "doc('file:///etc/passwd')",
                "unparsed-text('file:///etc/passwd')",
                "unparsed-text-lines('/etc/passwd')",
                "json-doc('file:///etc/passwd')",
                "environment-variable('PATH')",
                "available-environment-variables()",
                "transform(map{'stylesheet-location': 'file:///etc/passwd'})",
                "load-xquery-module('x', map{'location-hints': 'file:///etc/passwd'})",
                "function-lookup(xs:QName('fn:unparsed-text'), 1)('file:///etc/passwd')",
                "let $f := unparsed-text#1 return $f('file:///etc/passwd')",
                "apply(unparsed-text#1, ['file:///etc/passwd'])",
                "for-each('file:///etc/passwd', unparsed-text#1)",
                "sort('file:///etc/passwd', (), unparsed-text#1)",
                "('file:///etc/passwd') => unparsed-text()",
                "Q{http://www.w3.org/2005/xpath-functions}unparsed-text('file:///etc/passwd')",
                "parse-xml('<!DOCTYPE a [<!ENTITY x SYSTEM \"file:///etc/passwd\">]><a>&x;</a>')",
                "trace('x', 'label')",
                "compare('a', 'b', 'http://saxon.sf.net/collation?class=java.lang.Runtime')",
                "Q{http://saxon.sf.net/}message-count()",
                "Q{java:java.lang.System}exit(3)",
                "Q{java:java.lang.System}getProperty('user.home')"
            })
    void nothingOutsideIsReached(String written) {
        PrintStream before = System.err;
        ByteArrayOutputStream terminal = new ByteArrayOutputStream();
        System.setErr(new PrintStream(terminal, true));
        try {
            assertThatThrownBy(() -> expressions.text(written, Scope.EMPTY))
                    .isInstanceOf(Problem.class)
                    .hasMessageNotContaining("root:");
        } finally {
            System.setErr(before);
        }
        assertThat(terminal.toString()).as("on the terminal").isEmpty();
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "matches('aaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaa', '^(a+)+b')",
                "matches('aaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaa!', '^(([a-z])+.)+[A-Z]([a-z])+$')",
                "replace('aaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaa', '(a|aa)+c', 'x')",
                "tokenize('aaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaa', '(a|aa)+c')",
                "string(analyze-string('aaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaa', '(a|aa)+c'))",
                "let $m := matches#2 return $m('aaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaa', '(a|aa)+c')",
                "for-each('aaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaa', matches(?, '(a|aa)+c'))",
                "'aaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaa' ! matches(., '(a|aa)+c')",
                "count(for $i in 1 to 1000000, $j in 1 to 1000000 return $i * $j)",
                "sum(1 to 2000000000)",
                "count((1 to 2000000000)[. mod 2 = 0])",
                "some $i in 1 to 2000000000 satisfies $i = -1",
                "every $i in 1 to 2000000000 satisfies $i > 0",
                "1 to 2000000000",
                "(1 to 100000000) ! 'aaaaaaaaaa'",
                "string-length(string-join((1 to 100000000) ! 'aaaaaaaaaa'))",
                "string-length(fold-left(1 to 60, 'a', function($a, $b) { concat($a, $a) }))",
                "string-length(fold-left(1 to 60, 'a', function($a, $b) { $a || $a }))",
                "count(fold-left(1 to 60, 1, function($a, $b) { ($a, $a) }))",
                "count(sort(reverse(1 to 100000000)))",
                "count(distinct-values(for $i in 1 to 100000000 return $i))",
                "let $f := function($g) { $g($g) } return $f($f)",
                "let $f := function($g, $n) { if ($n = 0) then 0 else $g($g, $n + 1) } return $f($f, 1)",
                "array:size(array:join(for $i in 1 to 100000000 return [$i]))",
                "map:size(map:merge(for $i in 1 to 100000000 return map{$i: $i}))",
                "count(index-of(1 to 2000000000, 5))",
                "deep-equal(1 to 2000000000, 1 to 2000000000)",
                "(1 to 2000000000) = (-5 to -1)",
                "count(codepoints-to-string(for $i in 1 to 100000000 return 65))",
                "count((1 to 2000000000)[last()])",
                "count(subsequence(1 to 2000000000, 1999999999))",
                "(1 to 2000000000) instance of xs:string*",
                "let $x := (1 to 2000000000) ! (. + 1) return ($x[last()], count($x))",
                "avg(for $i in 1 to 2000000000 return $i)",
                "xs:integer(fold-left(1 to 10000000, 1, function($a, $b) { $a * $b })) mod 7"
            })
    @Timeout(value = 30, unit = TimeUnit.SECONDS)
    void whatTakesTooLongOrTooMuchEndsInWords(String written) {
        try {
            // some are clever enough to be quick; then they must be right
            String value = expressions.text(written, Scope.EMPTY);
            assertThat(value).hasSizeLessThan(1_000_000);
        } catch (Problem problem) {
            assertThat(problem.kind()).isEqualTo(Problem.Kind.EXPRESSION);
            assertThat(problem.getMessage())
                    .matches("(?s).*(longer than|more than can be held|nested too deep|memory|too large|limit).*");
        }
    }

    @Test
    @Timeout(20)
    void nestingHasABound() {
        String deep = "(".repeat(100_000) + "1" + ")".repeat(100_000);
        assertThatThrownBy(() -> expressions.text(deep, Scope.EMPTY))
                .isInstanceOf(Problem.class)
                .satisfies(p -> assertThat(p.getMessage()).hasSizeLessThan(1_000));
        String wide = "1" + " + 1".repeat(20_000);
        try {
            assertThat(expressions.text(wide, Scope.EMPTY)).isEqualTo("20001");
        } catch (Problem problem) {
            assertThat(problem.getMessage()).contains("too deep");
        }
    }

    @Test
    @Timeout(20)
    void anEvaluationCanBeStopped() throws Exception {
        StopSignal stop = new StopSignal();
        CompletableFuture<Problem> ended = CompletableFuture.supplyAsync(() -> {
            try {
                // a great deal of waiting within the budget: other threads' time does not count
                expressions.text("count(for $i in 1 to 4000, $j in 1 to 4000 return $i)", Scope.EMPTY.until(stop));
                return null;
            } catch (Problem problem) {
                return problem;
            }
        });
        stop.stop();
        Problem problem = ended.get(15, TimeUnit.SECONDS);
        assertThat(problem).isNotNull();
        assertThat(problem.kind()).isEqualTo(Problem.Kind.STOPPED);
    }

    @Test
    void theNextEvaluationHasABudgetOfItsOwn() {
        for (int i = 0; i < 5; i++) {
            assertThat(expressions.text("count(for $i in 1 to 400, $j in 1 to 400 return $i)", Scope.EMPTY))
                    .isEqualTo("160000");
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "//hut[2]/name",
                "//hut[last()]/@id",
                "sum(//beds)",
                "//hut[beds > 10][position() < 2]/name",
                "count(//*)",
                "string-join(//name, '|')",
                "for $h in //hut return concat($h/name, '!')",
                "//name/../@id/string()",
                "(//hut/name | //hut/beds) ! name(.)",
                "//hut/preceding-sibling::hut[1]/name",
                "some $h in //hut satisfies $h/beds = 24",
                "every $h in //hut satisfies $h/beds > 1",
                "if (//hut[beds = 8]) then 'yes' else 'no'",
                "let $b := //beds return ($b[1], count($b), $b[last()])",
                "//hut[name = ('Skarn', 'Kettle')]/@id ! string()",
                "(1 to 5)[. mod 2 = 1]",
                "reverse(1 to 4)",
                "(1 to 2000)[last()]",
                "sort(//name/string())",
                "sort(//hut, (), function($h) { number($h/beds) }) ! @id/string()",
                "fold-left(//beds, 0, function($a, $b) { $a + number($b) })",
                "for-each-pair(//name, //beds, function($n, $b) { $n || ':' || $b })",
                "matches('NF-07', '^NF-[0-9]{2}$')",
                "replace('Two nights', '[aeiou]', '.')",
                "tokenize('a, b,c', ',\\s*')",
                "(//name ! matches(., 'S'))",
                "let $r := replace#3 return $r('abc', 'b', 'x')",
                "filter(//beds, function($b) { $b > 10 })",
                "distinct-values(//beds)",
                "deep-equal(//hut[1], //hut[1])",
                "//hut except //hut[1]",
                "//hut intersect //hut[2]",
                "//hut[1] << //hut[2]",
                "xs:date('2027-02-12') + xs:dayTimeDuration('P2D')",
                "format-number(1234.5, '#,##0.00')",
                "map{'a': 1, 'b': 2}?b",
                "array{1, 2, 3}(2)",
                "[1, [2, 3]]?2?1",
                "map:keys(map{'k': 1})",
                "parse-xml('<a><b>1</b></a>')//b",
                "parse-json('{\"a\": [1, 2]}')?a?*",
                "serialize(//hut[1]/name)",
                "string(analyze-string('a1b2', '[0-9]'))",
                "head(//name), tail(//name)",
                "//hut/name[starts-with(., 'S')]/following-sibling::beds",
                "//*[not(*)]/name()",
                "count(//hut[@id = 'NF-02']/ancestor::*)",
                "substring-after(//hut[1]/@id, '-')",
                "//hut[count(preceding::hut) = 1]/name",
                "//name = 'Skarn' and //beds = 24 or false()",
                "1 + 2 * 3 - 4 idiv 3",
                "'a' || 'b' || 'c'",
                "//hut[1]/name castable as xs:integer",
                "(//beds treat as item()*)[2]",
                "//hut instance of element()+",
                "-(//beds)[1]",
                "(//beds)[1] eq '24'",
                "string-length(string-join((1 to 300) ! 'x'))"
            })
    void boundsChangeNoValue(String written) throws Exception {
        String xml = "<huts><hut id='NF-01'><name>Skarn</name><beds>24</beds></hut>"
                + "<hut id='NF-02'><name>Kettle</name><beds>8</beds></hut>"
                + "<hut id='NF-03'><name>Wolfgill</name><beds>16</beds></hut></huts>";
        Processor plain = new Processor(false);
        XPathCompiler compiler = plain.newXPathCompiler();
        for (String set : List.of("map", "array", "math")) {
            compiler.declareNamespace(set, FN + "/" + set);
        }
        XdmNode document = plain.newDocumentBuilder().build(new StreamSource(new StringReader(xml)));
        String expected = Expressions.text(compiler.evaluate(written, document));
        String found = expressions.text(written, Scope.EMPTY.on(expressions.read(xml)));
        assertThat(found).isEqualTo(expected);
    }
}
