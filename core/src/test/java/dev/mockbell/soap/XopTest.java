package dev.mockbell.soap;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.content.Part;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import dev.mockbell.xml.XmlText;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.w3c.dom.Document;

/** What XOP took out of a message is put back where it was. */
class XopTest {
    private static final String PHOTO = "<photo>%s</photo>";
    private static final String INCLUDE = "<x:Include xmlns:x='http://www.w3.org/2004/08/xop/include' href='cid:%s'/>";

    private static Part part(String id, String content, Header... more) {
        List<Header> headers = new ArrayList<>(List.of(more));
        headers.add(new Header("Content-ID", "<" + id + ">"));
        return new Part(headers, Content.of(content.getBytes(StandardCharsets.UTF_8)));
    }

    private static String resolved(String holds, Part... parts) {
        Document document = Xml.parse(
                Content.of(PHOTO.formatted(holds).getBytes(StandardCharsets.UTF_8)), "", "test", XmlLimits.MESSAGE);
        Xop.resolve(document, List.of(parts));
        return XmlText.exact(document);
    }

    @Test
    void anIncludeBecomesTheBase64OfItsPart() {
        assertThat(resolved(INCLUDE.formatted("b@huts"), part("a@huts", "no"), part("b@huts", "bunk")))
                .endsWith("<photo>YnVuaw==</photo>");
    }

    @Test
    void theIdIsWrittenAsAnAddressAndAPlusMeansItself() {
        assertThat(resolved(INCLUDE.formatted("a+b%20c%40huts"), part("a+b c@huts", "bunk")))
                .endsWith("<photo>YnVuaw==</photo>");
    }

    @Test
    void aPartThatIsInBase64AlreadyIsTakenAsItStands() {
        assertThat(resolved(
                        INCLUDE.formatted("a"),
                        part("a", "YnVu\r\naw==", new Header("Content-Transfer-Encoding", "Base64"))))
                .endsWith("<photo>YnVuaw==</photo>");
    }

    @Test
    void anIncludeWithoutItsPartOrBesideOtherContentStays() {
        assertThat(resolved(INCLUDE.formatted("none"), part("a", "bunk"))).contains("Include");
        assertThat(resolved("text " + INCLUDE.formatted("a"), part("a", "bunk")))
                .contains("Include");
        assertThat(resolved(INCLUDE.formatted("a%"), part("a", "bunk"))).contains("Include");
    }
}
