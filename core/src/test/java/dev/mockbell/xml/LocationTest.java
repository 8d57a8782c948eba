package dev.mockbell.xml;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class LocationTest {
    @ParameterizedTest
    @CsvSource({
        "http://h/a/b?wsdl, x.xsd, http://h/a/x.xsd",
        "http://h/a/b?wsdl, ?xsd=1, http://h/a/b?xsd=1",
        "http://h/a/b/c.wsdl, ../d/x.xsd, http://h/a/d/x.xsd",
        "http://h/a, https://other/x.xsd, https://other/x.xsd",
        "file:///a/b.wsdl, c d.xsd, file:///a/c%20d.xsd",
        "file:///a/b.wsdl, sub\\x.xsd, file:///a/sub/x.xsd",
        "file:///a/b.wsdl, b.wsdl, file:///a/b.wsdl",
        "file:///a/b.wsdl, 100%.xsd, file:///a/100%25.xsd",
        "http://h/a, http://[::1]:80/x.xsd, http://[::1]:80/x.xsd",
        "file:///a/b.wsdl, h%C3%BCtte.xsd, file:///a/h%C3%BCtte.xsd",
        "file:///a/b.wsdl, hütte.xsd, file:///a/hütte.xsd"
    })
    void aLocationLeadsWhereItsAuthorMeant(String base, String location, String target) {
        assertThat(Location.resolve(base, location))
                .hasValueSatisfying(u -> assertThat(u).hasToString(target));
    }

    @Test
    void whatIsNoAddressLeadsNowhere() {
        assertThat(Location.resolve("http://h/a", "http://[::/")).isEmpty();
        assertThat(Location.resolve("http://h/a", ":x")).isEmpty();
    }
}
