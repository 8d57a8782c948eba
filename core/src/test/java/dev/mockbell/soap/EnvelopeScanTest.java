package dev.mockbell.soap;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.content.Part;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.List;
import javax.xml.namespace.QName;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Envelopes that are gone through without a tree. */
class EnvelopeScanTest {
    private static EnvelopeScan scan(String text, String type, Charset charset) {
        return EnvelopeScan.of(new Part(List.of(new Header("Content-Type", type)), Content.of(text.getBytes(charset))));
    }

    @Test
    void versionAndPayloadAreFoundInAnyEncoding() {
        String text =
                Envelope.around(SoapVersion.V12, "<n:huts xmlns:n='urn:n'><n:a>å</n:a></n:huts>", List.of("<h/>"));
        EnvelopeScan scan = scan(text, "application/soap+xml; charset=utf-16le", StandardCharsets.UTF_16LE);
        assertThat(scan.version()).contains(SoapVersion.V12);
        assertThat(scan.payload()).contains(new QName("urn:n", "huts"));
        assertThat(scan.flaw()).isEmpty();
        assertThat(scan.isFault()).isFalse();
        String fault = Envelope.around(
                SoapVersion.V11, SoapFault.xml(SoapVersion.V11, SoapFault.Code.RECEIVER, "no", ""), List.of());
        assertThat(scan(fault, "text/xml", StandardCharsets.UTF_8).isFault()).isTrue();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "<a/> | the body is XML, <a>, not a SOAP envelope",
                "<a><b></a> | <a>, not a SOAP envelope",
                "<!DOCTYPE a><a/> | document type declaration",
                "<e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/'><e:Body><x></e:Body> | not well-formed",
                "<e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/'><e:Body> | not well-formed",
            })
    void whatIsNoEnvelopeToItsEndIsTold(String text, String words) {
        assertThat(scan(text, "", StandardCharsets.UTF_8).flaw())
                .hasValueSatisfying(f -> assertThat(f).contains(words));
    }
}
