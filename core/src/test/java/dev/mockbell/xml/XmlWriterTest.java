package dev.mockbell.xml;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.w3c.dom.Element;

class XmlWriterTest {
    private static final String NASTY = "a<b>&\"c'\r\n\t]]>ø\uD83D\uDD14";

    private static Element read(String xml) {
        return Xml.parse(xml, "written", XmlLimits.MESSAGE).getDocumentElement();
    }

    @Test
    void elementsAreLaidOutAndTextIsNot() {
        String xml = XmlWriter.document()
                .start("run")
                .attribute("steps", 2)
                .start("step")
                .element("name", "one")
                .end()
                .start("step")
                .end()
                .end()
                .finish();
        assertThat(xml)
                .isEqualTo("<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<run steps=\"2\">\n  <step>\n"
                        + "    <name>one</name>\n  </step>\n  <step/>\n</run>");
    }

    @Test
    void whateverIsWrittenIsReadAgainAsItWas() {
        String xml = XmlWriter.fragment()
                .start("r")
                .attribute("a", NASTY)
                .text(NASTY)
                .end()
                .finish();
        Element read = read(xml);
        assertThat(read.getAttribute("a")).isEqualTo(NASTY);
        assertThat(read.getTextContent()).isEqualTo(NASTY);
    }

    @ParameterizedTest
    @ValueSource(strings = {"\u0000", "\u0007", "\uFFFE", "\u001B[31m"})
    void whatXmlCannotHoldIsReplaced(String text) {
        String xml = XmlWriter.fragment()
                .start("r")
                .attribute("a", text)
                .text(text)
                .end()
                .finish();
        Element read = read(xml);
        assertThat(read.getTextContent()).startsWith("\uFFFD").isEqualTo(read.getAttribute("a"));
    }

    @Test
    void prefixesAreWrittenAsGiven() {
        String xml = XmlWriter.fragment()
                .start("s:Fault")
                .attribute("xmlns:s", "urn:s")
                .start("s:Code")
                .attribute("xml:lang", "en")
                .raw("<x xmlns='urn:x'/>")
                .end()
                .end()
                .finish();
        Element read = read(xml);
        assertThat(read.getNamespaceURI()).isEqualTo("urn:s");
        assertThat(Xml.children(Xml.children(read).get(0)).get(0).getNamespaceURI())
                .isEqualTo("urn:x");
    }

    @Test
    void anEndTooManyIsADefect() {
        XmlWriter writer = XmlWriter.fragment().start("r").end();
        assertThatThrownBy(writer::end).isInstanceOf(IllegalStateException.class);
    }

    @Test
    void aValueStandsAnywhereAsItIs() {
        assertThat(Markup.anywhere("plain")).isSameAs("plain");
        String written = Markup.anywhere("a<b>&\"c\r");
        assertThat(read("<r a=\"" + written + "\">" + written + "</r>").getTextContent())
                .isEqualTo("a<b>&\"c\r");
        assertThat(read("<r a=\"" + written + "\"/>").getAttribute("a")).isEqualTo("a<b>&\"c\r");
    }

    @Test
    void theFormsOfAValueHoldHowOthersWriteIt() {
        assertThat(Markup.forms("a<b>\"&'"))
                .contains("a<b>\"&'", "a&lt;b>\"&amp;'", "a&lt;b&gt;&quot;&amp;&apos;", "a&lt;b&gt;&quot;&amp;&#39;");
        assertThat(Markup.forms("plain")).containsExactly("plain");
    }

    @Test
    void whatIsLegalStays() {
        assertThat(Markup.legal(NASTY)).isEqualTo(NASTY);
        assertThat(Markup.legal("a\u0001b\uD800c")).isEqualTo("a\uFFFDb\uFFFDc");
    }
}
