package dev.mockbell.expression;

import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.util.Set;
import net.sf.saxon.Configuration;
import net.sf.saxon.lib.EnvironmentVariableResolver;
import net.sf.saxon.lib.Feature;
import net.sf.saxon.lib.Logger;
import net.sf.saxon.s9api.Processor;
import net.sf.saxon.trans.XPathException;
import org.xml.sax.XMLReader;

/**
 * Closes the expression library to everything outside: whatever it finds or resolves anything with is refused here, below
 * the list of allowed functions, so that a way past the one meets the other.
 */
final class Closing {
    private Closing() {}

    static void close(Processor processor) {
        processor.setConfigurationProperty(Feature.ALLOW_EXTERNAL_FUNCTIONS, false);
        processor.setConfigurationProperty(Feature.ALLOWED_PROTOCOLS, "");
        processor.setConfigurationProperty(Feature.ENVIRONMENT_VARIABLE_RESOLVER, new NoEnvironment());
        Configuration library = processor.getUnderlyingConfiguration();
        library.setResourceResolver(request -> {
            throw refused(request.uri);
        });
        library.setUnparsedTextURIResolver((uri, encoding, configuration) -> {
            throw refused(String.valueOf(uri));
        });
        library.setCollectionFinder((context, uri) -> {
            throw refused(uri);
        });
        // a collation can name a class to be loaded
        var usual = library.getCollationURIResolver();
        library.setCollationURIResolver(
                (uri, configuration) -> uri.contains("class=") ? null : usual.resolve(uri, configuration));
        // XML within expressions is read like any message: without document types and entities from elsewhere
        library.setParseOptions(library.getParseOptions().withXMLReaderMaker(Closing::reader));
        // what is wrong is thrown and told in the program's own words; the library's would go to the terminal
        library.setErrorReporterFactory(configuration -> error -> {});
        library.setLogger(new Silence());
    }

    private static XMLReader reader() {
        return Xml.reader(XmlLimits.MESSAGE);
    }

    private static XPathException refused(String what) {
        return new XPathException("expressions may not read " + what);
    }

    private static final class Silence extends Logger {
        @Override
        public void println(String message, int severity) {
            // nobody is told
        }
    }

    private static final class NoEnvironment implements EnvironmentVariableResolver {
        @Override
        public Set<String> getAvailableEnvironmentVariables() {
            return Set.of();
        }

        @Override
        public String getEnvironmentVariable(String name) {
            return null;
        }
    }
}
