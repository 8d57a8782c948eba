package dev.mockbell.soap;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.problem.Problem;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

class SoapTest {
    private static SoapMessage parse(String text) {
        return SoapMessage.parse(text.getBytes(StandardCharsets.UTF_8), "m");
    }

    @ParameterizedTest
    @EnumSource(SoapVersion.class)
    void aPayloadGoesIntoAnEnvelopeAndComesOutAgain(SoapVersion version) {
        String envelope = Envelope.around(
                version, "<?xml version='1.0'?><a:x xmlns:a='urn:a'>1</a:x>", List.of("<h xmlns='urn:h'/>"));
        SoapMessage message = parse(envelope);
        assertThat(message.version()).isEqualTo(version);
        assertThat(message.headers()).hasSize(1);
        assertThat(message.payloadText())
                .isEqualTo("<a:x xmlns:a=\"urn:a\" xmlns:soap=\"" + version.namespace() + "\">1</a:x>");
        assertThat(message.fault()).isEmpty();
    }

    @ParameterizedTest
    @EnumSource(SoapVersion.class)
    void anotherPayloadTakesThePlaceOfOneAndAllElseStays(SoapVersion version) {
        SoapMessage message =
                parse(Envelope.around(version, "<x xmlns='urn:a'>1</x>", List.of("<h xmlns='urn:h'>k</h>")));
        SoapMessage changed = parse(message.textWith("<?xml version='1.0'?><y xmlns='urn:b'>2</y>"));
        assertThat(changed.version()).isEqualTo(version);
        assertThat(changed.headers().get(0).getTextContent()).isEqualTo("k");
        assertThat(changed.payloadText()).contains("<y xmlns=\"urn:b\"").endsWith(">2</y>");
        assertThat(parse(parse(Envelope.around(version, "", List.of())).textWith("<y/>"))
                        .payload())
                .isPresent();
        assertThatThrownBy(() -> message.textWith("<y>")).isInstanceOf(Problem.class);
        assertThat(message.payloadText()).as("it stays as it was").contains(">1</x>");
    }

    @Test
    void aWholeEnvelopeIsSentAsItIs() {
        String own = "<e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/'><e:Body/></e:Envelope>";
        assertThat(Envelope.around(SoapVersion.V11, own, List.of())).isEqualTo(own);
    }

    @Test
    void textOverSeveralLinesKeepsItsWhiteSpace() {
        String payload = "<a>one\n  two</a>";
        assertThat(parse(Envelope.around(SoapVersion.V11, payload, List.of()))
                        .payload()
                        .orElseThrow()
                        .getTextContent())
                .isEqualTo("one\n  two");
    }

    @ParameterizedTest
    @EnumSource(SoapVersion.class)
    void faultsAreUnderstood(SoapVersion version) {
        String fault = SoapFault.xml(version, SoapFault.Code.RECEIVER, "No <bunks> left", "<Full xmlns='urn:s'/>");
        SoapFault read =
                parse(Envelope.around(version, fault, List.of())).fault().orElseThrow();
        assertThat(read.reason()).isEqualTo("No <bunks> left");
        assertThat(read.title()).isEqualTo("Full");
        assertThat(read.code()).isEqualTo(version == SoapVersion.V11 ? "soap:Server" : "soap:Receiver");
    }

    @Test
    void onlySoap12CarriesTheActionInTheContentType() {
        assertThat(SoapVersion.V11.contentType("urn:a")).isEqualTo("text/xml; charset=utf-8");
        assertThat(SoapVersion.V12.contentType("urn:a"))
                .isEqualTo("application/soap+xml; charset=utf-8; action=\"urn:a\"");
    }

    @Test
    void whatIsNoEnvelopeIsNamed() {
        assertThatThrownBy(() -> parse("<html/>")).isInstanceOf(Problem.class).hasMessageContaining("web page");
        assertThatThrownBy(() -> parse("")).isInstanceOf(Problem.class).hasMessageContaining("empty");
    }
}
