package dev.mockbell.peers;

import jakarta.jws.WebMethod;
import jakarta.jws.WebParam;
import jakarta.jws.WebService;
import jakarta.xml.ws.BindingType;
import jakarta.xml.ws.soap.SOAPBinding;

/** As {@link Photos}, by SOAP 1.2. */
@WebService(targetNamespace = "urn:northfell:peers")
@BindingType(SOAPBinding.SOAP12HTTP_BINDING)
public class Photos12 {
    @WebMethod
    public byte[] copy(@WebParam(name = "photo") byte[] photo) {
        return photo;
    }
}
