package dev.mockbell.message;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.problem.Problem;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.util.List;
import java.util.Map;
import javax.xml.namespace.QName;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.w3c.dom.Attr;
import org.w3c.dom.Element;

class FragmentsTest {
    private static Element parse(String xml) {
        return Xml.parse(xml, "test", XmlLimits.MESSAGE).getDocumentElement();
    }

    private static Element first(String xml) {
        return Xml.children(parse(xml)).get(0);
    }

    @Test
    void aPartTakesAlongTheDeclarationsThatItsNamesAndValuesNeed() {
        String text = Fragments.text(first("<a:r xmlns:a='urn:a' xmlns:b='urn:b' xmlns:c='urn:c' xmlns:d='urn:d&amp;e'>"
                + "<b:x c:k='1' type='d:T'>v</b:x></a:r>"));
        Element alone = parse(text);
        assertThat(alone.lookupNamespaceURI("b")).isEqualTo("urn:b");
        assertThat(alone.lookupNamespaceURI("c")).isEqualTo("urn:c");
        assertThat(alone.lookupNamespaceURI("d")).isEqualTo("urn:d&e");
        assertThat(alone.lookupNamespaceURI("a")).as("nothing there uses it").isNull();
    }

    @Test
    void aDefaultNamespaceStaysOne() {
        assertThat(parse(Fragments.text(first("<r xmlns='urn:r'><x/></r>"))).getNamespaceURI())
                .isEqualTo("urn:r");
    }

    @Test
    void anAttributeIsItsValueAndNothingIsNothing() {
        assertThat(Fragments.text(parse("<r k='a&amp;b'/>").getAttributeNode("k")))
                .isEqualTo("a&b");
        assertThat(Fragments.text(null)).isEmpty();
    }

    @Test
    void severalElementsAreReadWithThePrefixesOfTheirPlace() {
        Element scope = first("<a:r xmlns:a='urn:&quot;a&quot;'><a:x/></a:r>");
        Element holder = Fragments.read("<?xml version='1.0'?> <a:one/>text<a:two/>", scope);
        assertThat(Xml.children(holder)).extracting(Element::getNamespaceURI).containsExactly("urn:\"a\"", "urn:\"a\"");
        assertThatThrownBy(() -> Fragments.read("<b:one/>", scope)).isInstanceOf(Problem.class);
    }

    @Test
    void attributesAreReadDeclarationsFirst() {
        List<Attr> read = Fragments.attributes(" k='1' x:l='2' xmlns:x='urn:x' ", parse("<r/>"));
        assertThat(read)
                .extracting(Attr::getName)
                .startsWith("xmlns:x")
                .contains("k", "x:l")
                .hasSize(3);
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "k", "k=1", "k='1' k='2'", "/><y", "k='<'", "u:k='1'"})
    void whatIsNotAttributesIsRefusedWithAnExample(String text) {
        assertThatThrownBy(() -> Fragments.attributes(text, parse("<r/>")))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("not attributes")
                .hasMessageContaining("note=");
    }

    @ParameterizedTest
    @CsvSource({
        "urn:northfell:hut-booking, hb",
        "http://x.example/stay/v2, stay",
        "http://x.example/2024-01/area, area",
        "urn:xsd, ns",
        "http://x.example/a-b-c-d-e-f, abcd",
        "'', ns"
    })
    void aPrefixIsSuggestedByTheNamespace(String namespace, String prefix) {
        assertThat(Prefixes.suggest(namespace)).isEqualTo(prefix);
    }

    @Test
    void prefixesAreTheContractsTheSameEachTimeAndNeverTwice() {
        Prefixes prefixes = new Prefixes(Map.of("urn:one", "p", "urn:two", "p", "urn:bad", "xmlish"));
        assertThat(prefixes.of("urn:one")).isEqualTo("p");
        assertThat(prefixes.of("urn:two")).isEqualTo("p2");
        assertThat(prefixes.of("urn:one")).isEqualTo("p");
        assertThat(prefixes.of("urn:bad"))
                .as("names that start with xml are reserved")
                .doesNotStartWith("xml");
        assertThat(prefixes.of("http://www.w3.org/XML/1998/namespace")).isEqualTo("xml");
        assertThat(prefixes.lexical(new QName("", "plain"))).isEqualTo("plain");
        assertThat(prefixes.lexical(new QName("urn:two", "x"))).isEqualTo("p2:x");
    }

    @Test
    void whatIsInScopeIsUsedUnlessItIsHidden() {
        Element inner = first("<a:r xmlns:a='urn:a' xmlns:b='urn:b'><x xmlns:b='urn:hides'/></a:r>");
        Prefixes prefixes = new Prefixes(Map.of());
        prefixes.inScopeOf(inner);
        assertThat(prefixes.of("urn:a")).isEqualTo("a");
        assertThat(prefixes.of("urn:hides")).isEqualTo("b");
        assertThat(prefixes.of("urn:b")).isNotEqualTo("b");
    }

    @Test
    void onlyWhatIsUsedIsDeclared() {
        Prefixes prefixes = new Prefixes(Map.of("urn:used", "u", "urn:not", "n"));
        Element element = parse("<r><a>u:T</a></r>");
        prefixes.of("urn:used");
        prefixes.of("urn:not");
        prefixes.declareWhatIsUsed(element);
        assertThat(element.hasAttribute("xmlns:u")).isTrue();
        assertThat(element.hasAttribute("xmlns:n")).isFalse();
    }
}
