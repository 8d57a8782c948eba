package dev.mockbell.peers;

import jakarta.jws.WebMethod;
import jakarta.jws.WebParam;
import jakarta.jws.WebResult;
import jakarta.jws.WebService;
import jakarta.jws.soap.SOAPBinding;
import jakarta.xml.ws.BindingType;

/** Document/literal bare over SOAP 1.2. */
@WebService(targetNamespace = "urn:northfell:peers")
@SOAPBinding(parameterStyle = SOAPBinding.ParameterStyle.BARE)
@BindingType(jakarta.xml.ws.soap.SOAPBinding.SOAP12HTTP_BINDING)
public class Bare {
    @WebMethod(action = "urn:northfell:peers:extend")
    @WebResult(name = "extended", targetNamespace = "urn:northfell:peers")
    public Stay extend(@WebParam(name = "toExtend", targetNamespace = "urn:northfell:peers") Stay stay) {
        if (stay.guests == null || stay.guests.isEmpty() || stay.board == null) {
            throw new IllegalArgumentException("guests and board are needed");
        }
        return stay;
    }

    @WebMethod
    @WebResult(name = "feet", targetNamespace = "urn:northfell:peers")
    public double toFeet(@WebParam(name = "metres", targetNamespace = "urn:northfell:peers") double metres) {
        return metres / 0.3048;
    }
}
