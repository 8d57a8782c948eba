package dev.mockbell.expression;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.xml.Xml;
import java.io.StringReader;
import java.util.Random;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import net.sf.saxon.s9api.XdmNode;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** A tree that is put together from a stream is the one that the library makes of the same text itself. */
class TreeCopyTest {
    /** Everything of a tree, in an order: kinds, names, text, and the namespaces in scope. */
    private static final String ALL = """
            string-join(for $n in (//node(), //@*) return string-join((
              if ($n instance of element()) then 'E' else if ($n instance of attribute()) then 'A'
                else if ($n instance of comment()) then 'C' else 'T',
              name($n), namespace-uri($n), string($n), string(count($n/ancestor::node())),
              if ($n instance of element()) then
                string-join(sort(in-scope-prefixes($n) ! concat(., '=', namespace-uri-for-prefix(., $n))), ' ') else ''),
              '|'), '&#10;')""";

    private final Expressions expressions = new Expressions();

    private XdmNode copied(String xml) throws XMLStreamException {
        XMLStreamReader reader = Xml.streaming().createXMLStreamReader(new StringReader(xml));
        while (!reader.isStartElement()) {
            reader.next();
        }
        TreeBuilding tree = expressions.building();
        new TreeCopy().copy(reader, tree);
        assertThat(reader.isEndElement()).isTrue();
        return tree.done();
    }

    private String all(XdmNode node) {
        return Expressions.text(expressions.evaluate(ALL.replace("&#10;", "\\n"), Scope.EMPTY.on(node)));
    }

    private void isTheSame(String xml) throws XMLStreamException {
        assertThat(all(copied(xml))).isEqualTo(all(expressions.read(xml)));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "<a/>",
                "<a>one<b/>two<![CDATA[<three>]]>&amp;four</a>",
                "<p:a xmlns:p='urn:p' xmlns='urn:d'><b p:c='1' d='&lt;'/><p:b xmlns:p='urn:q' p:c='2'/><b xmlns=''/></p:a>",
                "<a xmlns='urn:d'><b xmlns=''><c xmlns='urn:e'/><d/></b><e/></a>",
                "<a a1='1' a2='2' a3='3' a4='4' a5='5' a6='6' a7='7' a8='8' a9='9' a10='10'/>",
                "<a><!-- left --> <b>\uD83C\uDFD4 h\u00F6he</b>\n\t</a>",
                "<a xml:lang='en' xml:space='preserve'> </a>"
            })
    void asTheLibraryReadsIt(String xml) throws XMLStreamException {
        isTheSame(xml);
    }

    @Test
    void ofAnyKindAndWithNamesThatComeAgain() throws XMLStreamException {
        Random random = new Random(16);
        for (int i = 0; i < 300; i++) {
            StringBuilder xml = new StringBuilder();
            element(random, 0, xml);
            isTheSame(xml.toString());
        }
        isTheSame("<a>" + "long text &lt; ".repeat(3_000) + "</a>");
    }

    private static void element(Random random, int depth, StringBuilder xml) {
        String prefix = random.nextInt(3) == 0 ? "p:" : "";
        String name = prefix + "abcdef".charAt(random.nextInt(6));
        xml.append('<').append(name);
        if (depth == 0 || random.nextInt(4) == 0) {
            xml.append(" xmlns:p='urn:p").append(random.nextInt(3)).append('\'');
        }
        if (random.nextInt(4) == 0) {
            xml.append(" xmlns='")
                    .append(random.nextBoolean() ? "" : "urn:d" + random.nextInt(3))
                    .append('\'');
        }
        for (int i = random.nextInt(4); i > 0; i--) {
            xml.append(random.nextBoolean() ? " p:x" : " x")
                    .append(i)
                    .append("='")
                    .append(random.nextInt(9))
                    .append('\'');
        }
        xml.append('>');
        for (int i = depth > 4 ? 0 : random.nextInt(4); i > 0; i--) {
            xml.append("text ".repeat(random.nextInt(3)));
            element(random, depth + 1, xml);
        }
        xml.append(random.nextInt(99)).append("</").append(name).append('>');
    }

    @Test
    void declarationsAroundAreInScope() throws XMLStreamException {
        XMLStreamReader reader = Xml.streaming()
                .createXMLStreamReader(new StringReader(
                        "<e xmlns:p='urn:p' xmlns='urn:out'><f xmlns:p='urn:q'><a xmlns:r='urn:r'/></f></e>"));
        TreeCopy copy = new TreeCopy();
        while (!reader.isStartElement() || !reader.getLocalName().equals("a")) {
            if (reader.isStartElement()) {
                copy.declared(reader);
            }
            reader.next();
        }
        TreeBuilding tree = expressions.building();
        copy.copy(reader, tree);
        assertThat(all(tree.done()))
                .isEqualTo(all(expressions.read("<a xmlns='urn:out' xmlns:p='urn:q' xmlns:r='urn:r'/>")));
    }

    @Test
    void moreNamesThanAreRememberedAreNamesAllTheSame() throws XMLStreamException {
        StringBuilder xml = new StringBuilder("<a>");
        for (int i = 0; i < 5_000; i++) {
            xml.append("<n").append(i).append('/').append('>');
        }
        XdmNode all = copied(xml.append("</a>").toString());
        assertThat(Expressions.text(expressions.evaluate("name(/a/*[4999])", Scope.EMPTY.on(all))))
                .isEqualTo("n4998");
    }

    @Test
    void soIsALocalNameWithMorePrefixesThanAreRemembered() throws XMLStreamException {
        StringBuilder xml = new StringBuilder("<a>");
        for (int i = 0; i < 100; i++) {
            xml.append("<p")
                    .append(i)
                    .append(":id xmlns:p")
                    .append(i)
                    .append("='urn:")
                    .append(i)
                    .append("'/>");
        }
        isTheSame(xml.append("</a>").toString());
    }

    @Test
    void whatSoapForbidsIsNotCopied() {
        assertThatThrownBy(() -> copied("<a><?go now?></a>")).isInstanceOf(XMLStreamException.class);
    }
}
