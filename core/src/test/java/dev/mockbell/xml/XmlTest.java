package dev.mockbell.xml;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.problem.Problem;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.w3c.dom.Document;

class XmlTest {
    @Test
    void elementsKnowTheirLine() {
        Document document = Xml.parse("<a>\n  <b/>\n</a>", "x.xml", XmlLimits.CONTRACT);
        assertThat(Xml.placeOf(Xml.children(document.getDocumentElement()).get(0)))
                .extracting(Place::document, Place::line)
                .containsExactly("x.xml", 2);
    }

    @Test
    void nothingOfADocumentIsLostOnTheWayThrough() {
        String text =
                "<?note here?>\n<a xmlns=\"urn:a\" k=\"1 &lt; 2\"><!-- c --><b>x &amp; y</b> <![CDATA[<raw>]]>\n<c/><?do it?></a>";
        assertThat(XmlText.exact(Xml.parse(text, "x", XmlLimits.MESSAGE))).isEqualTo(text);
    }

    @Test
    void layingOutLeavesTextAlone() {
        Document document = Xml.parse("<a><b> x </b><c><d/></c>tail</a>", "x", XmlLimits.MESSAGE);
        assertThat(XmlText.laidOut(document)).isEqualTo("<a><b> x </b><c>\n    <d/>\n  </c>tail</a>");
    }

    @Test
    void aMistakeIsToldWithItsPlace() {
        assertThatThrownBy(() -> Xml.parse("<a>\n <b></a>", "x.xml", XmlLimits.MESSAGE))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("not well-formed")
                .hasMessageContaining("x.xml:2:");
    }

    @Test
    void aMessageMayHaveNoDocumentType() {
        assertThatThrownBy(() -> Xml.parse("<!DOCTYPE a [<!ENTITY e 'x'>]><a>&e;</a>", "x", XmlLimits.MESSAGE))
                .isInstanceOf(Problem.class)
                .hasMessageStartingWith("The XML has a document type declaration, which SOAP forbids")
                .hasMessageNotContaining("well-formed");
    }

    @Test
    void anInternalSubsetOfAContractIsReadWithinLimits() {
        Document document = Xml.parse("<!DOCTYPE a [<!ENTITY e 'x'>]><a>&e;</a>", "x", XmlLimits.CONTRACT);
        assertThat(document.getDocumentElement().getTextContent()).isEqualTo("x");
    }

    @Test
    void entitiesThatExpandWithoutEndAreStopped() {
        StringBuilder bomb = new StringBuilder("<!DOCTYPE a [<!ENTITY e0 'ha'>");
        for (int i = 1; i < 12; i++) {
            bomb.append("<!ENTITY e")
                    .append(i)
                    .append(" '")
                    .append(("&e" + (i - 1) + ";").repeat(10))
                    .append("'>");
        }
        bomb.append("]><a>&e11;</a>");
        assertThatThrownBy(() -> Xml.parse(bomb.toString(), "bomb", XmlLimits.CONTRACT))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("beyond the limit");
    }

    @Test
    void externalEntitiesAreNeverRead(@TempDir Path folder) throws Exception {
        Path secret = folder.resolve("secret.txt");
        Files.writeString(secret, "TOP-SECRET");
        String text = "<!DOCTYPE a [<!ENTITY e SYSTEM '" + secret.toUri() + "'>]><a>&e;</a>";
        assertThat(Xml.parse(text, "x", XmlLimits.CONTRACT).getDocumentElement().getTextContent())
                .doesNotContain("TOP-SECRET");
    }

    @Test
    void externalDocumentTypesAreNeverRead(@TempDir Path folder) throws Exception {
        Path dtd = folder.resolve("a.dtd");
        Files.writeString(dtd, "<!ENTITY e 'from outside'>");
        String text = "<!DOCTYPE a SYSTEM '" + dtd.toUri() + "'><a>plain</a>";
        assertThat(Xml.parse(text, "x", XmlLimits.CONTRACT).getDocumentElement().getTextContent())
                .isEqualTo("plain");
    }

    @Test
    void nestingWithoutEndIsStopped() {
        String deep = "<a>".repeat(20_000) + "</a>".repeat(20_000);
        assertThatThrownBy(() -> Xml.parse(deep, "deep", XmlLimits.CONTRACT))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("nested more than 1000 deep");
    }

    @Test
    void aDocumentOverTheSizeIsRefused() {
        XmlLimits small = new XmlLimits(10, 10, 20, true);
        byte[] bytes = "<a>0123456789012345678901234567890</a>".getBytes(StandardCharsets.UTF_8);
        assertThatThrownBy(() -> Xml.parse(bytes, "big", small))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("limit of 20");
    }
}
