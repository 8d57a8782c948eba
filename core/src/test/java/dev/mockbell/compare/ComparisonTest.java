package dev.mockbell.compare;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.compare.Difference.Kind;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.message.MessagePath;
import dev.mockbell.problem.Problem;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

/** Two messages held against each other. */
class ComparisonTest {
    private static final Expressions EXPRESSIONS = new Expressions();

    private static Document read(String xml) {
        return Xml.parse(xml, "m", XmlLimits.MESSAGE);
    }

    private static Comparison compare(String before, String now, String... leftOut) {
        Document old = read(before);
        Document other = read(now);
        Set<Node> out = Collections.newSetFromMap(new IdentityHashMap<>());
        out.addAll(LeftOut.in(old, List.of(leftOut), EXPRESSIONS, Scope.EMPTY));
        out.addAll(LeftOut.in(other, List.of(leftOut), EXPRESSIONS, Scope.EMPTY));
        return Comparison.of(old.getDocumentElement(), other.getDocumentElement(), out);
    }

    private static List<String> words(Comparison comparison) {
        return comparison.differences().stream().map(Difference::words).toList();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "<a><b>1</b></a> | <a><b>2</b></a> | /a/b: 1 → 2",
                "<a><b>1</b></a> | <a><b>1</b><c>2</c></a> | /a/c: more, 2",
                "<a><b>1</b><c/></a> | <a><c/></a> | /a/b: gone, 1",
                "<a x='1'/> | <a x='2'/> | /a/@x: 1 → 2",
                "<a><h id='1'><n>x</n></h><h id='2'><n>y</n></h></a> | <a><h id='1'><n>x</n></h><h id='2'><n>z</n></h></a> | /a/h[2]/n: y → z",
                "<a><h id='1'><n>x</n></h><h id='2'><n>y</n></h></a> | <a><h id='2'><n>y2</n></h><h id='1'><n>x2</n></h></a> | /a/h[1]/n: y → y2; /a/h[2]/n: x → x2; /a/h[2]: stands elsewhere",
                "<a x='1'/> | <a/> | /a/@x: gone, 1",
                "<a/> | <a y='3'/> | /a/@y: more, 3",
                "<a><b>1 2</b></a> | <a><b> 1   2 </b></a> | /a/b: spaced otherwise",
                "<a><b>1</b></a> | <a><b> 1</b></a> | /a/b: spaced otherwise",
                "<a><b/><c/></a> | <a><c/><b/></a> | /a/b: stands elsewhere",
                "<a><b>1</b><b>2</b></a> | <a><b>2</b><b>1</b></a> | /a/b[2]: stands elsewhere",
                "<a>one<b/>two</a> | <a>one<b/>three</a> | /a: onetwo → onethree",
                "<a/> | <z/> | /z: a → z",
                "<a><b>1</b></a> | <a><b/></a> | /a/b: 1 → (empty)",
            })
    void aDifferenceIsToldWithItsPlace(String before, String now, String words) {
        assertThat(words(compare(before, now))).containsExactly(words.split("; "));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "<a><b>1</b></a> | <a>  <b>1</b>  </a>",
                "<p:a xmlns:p='u'><p:b/></p:a> | <a xmlns='u'><b/></a>",
                "<a x='1' y='2'/> | <a y='2' x='1'><!-- said --></a>",
                "<a><![CDATA[1]]></a> | <a>1</a>",
            })
    void howItIsWrittenIsNoDifference(String before, String now) {
        Comparison comparison = compare(before, now);
        assertThat(words(comparison)).isEmpty();
        assertThat(comparison.words()).isEqualTo("the same");
    }

    @Test
    void orderAndWhiteSpaceDoNotMakeItAnother() {
        Comparison order = compare("<a><b>1</b><b>2</b></a>", "<a><b>2</b><b> 1</b></a>");
        assertThat(order.isSame()).isTrue();
        assertThat(order.words()).startsWith("the same; ");
        assertThat(compare("<a><b>1</b></a>", "<a><b>2</b></a>").isSame()).isFalse();
    }

    @Test
    void repeatedElementsAreFoundAgainByWhatTellsThemApart() {
        Comparison comparison = compare(
                "<l><c><t>Skarn</t><u>1</u></c><c><t>Tarn</t><u>2</u></c><c><t>Col</t><u>3</u></c></l>",
                "<l><c><t>New</t><u>9</u></c><c><t>Skarn</t><u>1</u></c><c><t>Col</t><u>4</u></c></l>");
        assertThat(words(comparison))
                .containsExactly("/l/c[1]: more, New, 9", "/l/c[3]/u: 3 → 4", "/l/c[2]: gone, Tarn, 2");
    }

    @Test
    void withoutSuchAFieldWhatStandsInTheSameGapIsTheSame() {
        assertThat(words(compare(
                        "<l><c><u>1</u></c><c><u>1</u></c><c><u>5</u></c></l>",
                        "<l><c><u>1</u></c><c><u>2</u></c><c><u>5</u></c></l>")))
                .containsExactly("/l/c[2]/u: 1 → 2");
    }

    @Test
    void partsAreLeftOutByTheirPaths() {
        String before = "<l><at>09:00</at><c n='1'><x>1</x><at>1</at></c><c n='2'><x>2</x><at>2</at></c></l>";
        String now = "<l><at>10:00</at><c n='1'><x>1</x><at>3</at></c><c n='2'><x>2</x></c></l>";
        assertThat(compare(before, now, "//at").isSame()).isTrue();
        assertThat(words(compare(before, now, "/l/c/at"))).containsExactly("/l/at: 09:00 → 10:00");
        assertThat(words(compare(before, now, "/l/at", "/l/c[@n = '1']"))).containsExactly("/l/c[2]/at: gone, 2");
        assertThat(compare("<a x='1'/>", "<a x='2'/>", "/a/@x").isSame()).isTrue();
        assertThat(compare(before, now, "/l").isSame()).isTrue();
        assertThatThrownBy(() -> compare(before, now, "//[")).isInstanceOf(Problem.class);
    }

    @Test
    void whatARowHeldBeforeIsKnown() {
        Document old = read("<l><c><t>a</t><u>1</u></c></l>");
        Document now = read("<l><c><t>a</t><u>2</u></c><c><t>b</t><u>3</u></c></l>");
        Comparison comparison = Comparison.of(old.getDocumentElement(), now.getDocumentElement(), Set.of());
        assertThat(comparison.before(at(now, "/l/c[1]/u"))).contains("1");
        assertThat(comparison.before(at(now, "/l/c[1]/t"))).isEmpty();
        assertThat(comparison.isMore(at(now, "/l/c[1]/t"))).isFalse();
        assertThat(comparison.isMore(at(now, "/l/c[2]/u"))).isTrue();
    }

    private static Node at(Document document, String path) {
        return MessagePath.node(document.getDocumentElement(), path).orElseThrow();
    }

    /** Whatever is changed in a random tree is found, and where it was not changed nothing is. */
    @Test
    void everyChangeOfARandomTreeIsFound() {
        Random random = new Random(11);
        for (int i = 0; i < 300; i++) {
            Document tree = read("<r/>");
            grow(tree.getDocumentElement(), random, 3);
            Document copy = (Document) tree.cloneNode(true);
            assertThat(Comparison.of(tree.getDocumentElement(), copy.getDocumentElement(), Set.of())
                            .differences())
                    .isEmpty();
            Element changed = any(copy.getDocumentElement(), random);
            changed.setAttribute("touched", "yes");
            Comparison comparison = Comparison.of(tree.getDocumentElement(), copy.getDocumentElement(), Set.of());
            assertThat(comparison.isSame()).as("tree %s", i).isFalse();
        }
    }

    private static void grow(Element element, Random random, int depth) {
        for (int i = random.nextInt(4); i > 0; i--) {
            Element child = element.getOwnerDocument().createElementNS(null, "e" + random.nextInt(3));
            element.appendChild(child);
            if (depth > 0 && random.nextBoolean()) {
                grow(child, random, depth - 1);
            } else {
                child.appendChild(element.getOwnerDocument().createTextNode("" + random.nextInt(5)));
            }
        }
    }

    private static Element any(Element element, Random random) {
        List<Element> children = Xml.children(element);
        return children.isEmpty() || random.nextInt(3) == 0
                ? element
                : any(children.get(random.nextInt(children.size())), random);
    }

    @Test
    void manyDifferencesAreCountedAndTheFirstKept() {
        StringBuilder before = new StringBuilder("<l>");
        StringBuilder now = new StringBuilder("<l>");
        for (int i = 0; i < 20_000; i++) {
            before.append("<c><t>").append(i).append("</t><u>1</u></c>");
            now.append("<c><t>").append(i).append("</t><u>2</u></c>");
        }
        Comparison comparison = compare(before + "</l>", now + "</l>");
        assertThat(comparison.count(Kind.CHANGED)).isEqualTo(20_000);
        assertThat(comparison.differences()).hasSize(Comparison.MOST_KEPT);
        assertThat(comparison.words()).isEqualTo("20000 changed");
    }
}
