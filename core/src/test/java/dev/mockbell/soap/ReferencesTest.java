package dev.mockbell.soap;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.xml.XmlText;
import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.Test;

class ReferencesTest {
    private static SoapMessage message(SoapVersion version, String body) {
        String text = "<e:Envelope xmlns:e='" + version.namespace()
                + "' xmlns:xsi='http://www.w3.org/2001/XMLSchema-instance'"
                + " xmlns:enc='http://www.w3.org/2003/05/soap-encoding'><e:Body>" + body + "</e:Body></e:Envelope>";
        return SoapMessage.parse(text.getBytes(StandardCharsets.UTF_8), "answer");
    }

    private static String placed(SoapVersion version, String body) {
        SoapMessage message = message(version, body);
        References.inPlace(message);
        return XmlText.exact(message.payload().orElseThrow().getOwnerDocument())
                .replaceAll("(?s).*?<e:Body>(<r.*?</r>).*", "$1");
    }

    @Test
    void aValueStandsWhereItIsReferredTo() {
        assertThat(
                        placed(
                                SoapVersion.V11,
                                "<r><sum href='#id0'/></r><multiRef id='id0' xsi:type='xsd:int' xmlns:xsd='urn:x'>7</multiRef>"))
                .contains(">7</sum>")
                .contains("xsi:type=\"xsd:int\"")
                .contains("xmlns:xsd=\"urn:x\"")
                .doesNotContain("href")
                .doesNotContain("id0");
        assertThat(placed(SoapVersion.V12, "<r><a enc:ref='x'/><b enc:id='x'><c>1</c></b></r>"))
                .contains("<a><c>1</c></a>");
    }

    @Test
    void aValueMayReferToOthersAndBeReferredToOften() {
        String placed = placed(
                SoapVersion.V11,
                "<r><hut href='#h'/><hut href='#h'/></r><m id='h'><name>Skarn</name><guard href='#g'/></m><m id='g'>Ines</m>");
        assertThat(placed.split("<guard>Ines</guard>", -1)).hasSize(3);
    }

    @Test
    void whatRefersToItselfOrToNothingStays() {
        assertThat(placed(SoapVersion.V11, "<r><a href='#h'/></r><m id='h'><next href='#h'/></m>"))
                .contains("<next href=\"#h\"/>");
        assertThat(placed(SoapVersion.V11, "<r><a href='#none'/><b href='http://else'/></r><m id='x'>1</m>"))
                .contains("href=\"#none\"")
                .contains("http://else");
    }

    /** Twenty values, each of which refers ten times to the next: without a bound there would be ten to the twentieth. */
    @Test
    void whatWouldStandForMoreThanThereIsRoomForIsLeft() {
        StringBuilder body = new StringBuilder("<r><a href='#v0'/></r>");
        for (int i = 0; i < 20; i++) {
            body.append("<m id='v")
                    .append(i)
                    .append("'>")
                    .append(("<n href='#v" + (i + 1) + "'/>").repeat(10))
                    .append("</m>");
        }
        assertThat(placed(SoapVersion.V11, body.append("<m id='v20'>1</m>").toString()))
                .contains("href");
    }
}
